// Display links: any browser that has one shows board and clock, and nothing else.
import { Button, Menu } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../../api/client";
import { keys } from "../../../api/keys";
import { walls } from "../../../api/queries";
import { useWrite } from "../../../api/writes";

export function Walls() {
  const found = useQuery(walls);
  const touches = () => [keys.walls];
  const make = useWrite((name: string) => ask(api.POST("/api/walls", { body: { name } })), {
    onDone: (made) => window.open(`/wall/${made.token}`, "_blank", "noopener"),
    touches,
  });
  const withdraw = useWrite(
    (token: string) => ask(api.DELETE("/api/walls/{token}", { params: { path: { token } } })),
    { touches },
  );
  return (
    <Menu>
      <Menu.Target>
        <Button variant="default">Walls</Button>
      </Menu.Target>
      <Menu.Dropdown>
        {(found.data ?? []).map((one) => (
          <Menu.Item key={one.token} component="a" href={`/wall/${one.token}`} target="_blank">
            Open {one.name}
          </Menu.Item>
        ))}
        <Menu.Item onClick={() => make.mutate(`Wall ${(found.data?.length ?? 0) + 1}`)}>
          Make a link for a display
        </Menu.Item>
        {(found.data ?? []).map((one) => (
          <Menu.Item key={`x${one.token}`} color="red" onClick={() => withdraw.mutate(one.token)}>
            Withdraw {one.name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
