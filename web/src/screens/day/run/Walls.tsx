// Display links: any browser that has one shows board and clock, and nothing else.
import { Button, Menu } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import { walls } from "../../api/queries";

export function Walls() {
  const client = useQueryClient();
  const found = useQuery(walls);
  const again = () => client.invalidateQueries({ queryKey: ["walls"] });
  const make = async () => {
    const name = `Wall ${(found.data?.length ?? 0) + 1}`;
    const made = await ask(api.POST("/api/walls", { body: { name } }));
    await again();
    window.open(`/wall/${made.token}`, "_blank", "noopener");
  };
  const withdraw = async (token: string) => {
    await ask(api.DELETE("/api/walls/{token}", { params: { path: { token } } }));
    again();
  };
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
        <Menu.Item onClick={make}>Make a link for a display</Menu.Item>
        {(found.data ?? []).map((one) => (
          <Menu.Item key={`x${one.token}`} color="red" onClick={() => withdraw(one.token)}>
            Withdraw {one.name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
