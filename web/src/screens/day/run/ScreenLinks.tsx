// Display links: any browser that has one shows board and clock, and nothing else.

import { Button, Modal, NativeSelect, TextInput } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { at } from "../../../api/base";
import { api, ask, type Schemas } from "../../../api/client";
import { keys } from "../../../api/keys";
import { gym, walls } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import { useConfirm } from "../../../ui/Confirm";
import fieldStyles from "../../../ui/fields.module.css";
import styles from "./ScreenLinks.module.css";

type Lines = readonly Schemas["ProgrammeOut"][];
const touches = () => [keys.walls];

function Wall({ one, lines }: { one: Schemas["WallLinkOut"]; lines: Lines }) {
  const withdraw = useWrite(
    () => ask(api.DELETE("/api/walls/{token}", { params: { path: { token: one.token } } })),
    { touches },
  );
  const [question, confirm] = useConfirm();
  const of = lines.find((line) => line.id === one.programme)?.name;
  return (
    <li className={styles.wall}>
      {question}
      <img src={one.shown.qr} alt={`The address of ${one.name}, for a phone or a screen to read`} />
      <div className="stack">
        <TextInput
          label={of ? `${one.name} · ${of}` : one.name}
          readOnly
          value={one.shown.address}
          onFocus={(event) => event.currentTarget.select()}
        />
        <div className={fieldStyles.lineTools}>
          <Button
            component="a"
            href={at(`/wall/${one.token}`)}
            target="_blank"
            rel="noopener"
            size="compact-sm"
            variant="default"
          >
            Open {one.name}
          </Button>
          <Button
            size="compact-sm"
            variant="subtle"
            color="red"
            onClick={() =>
              confirm({
                title: `Withdraw ${one.name}?`,
                text: "Screens that use its link go dark. The link cannot be brought back.",
                verb: "Withdraw",
                act: () => withdraw.mutate(undefined),
              })
            }
          >
            Withdraw {one.name}
          </Button>
        </div>
      </div>
    </li>
  );
}

export function ScreenLinks() {
  const lines = useQuery(gym).data?.programmes ?? [];
  const [opened, dialog] = useDisclosure();
  const found = useQuery(walls);
  const [named, setNamed] = useState("");
  const [of, setOf] = useState("");
  const make = useWrite((body: Schemas["WallLinkForm"]) => ask(api.POST("/api/walls", { body })), {
    onDone: () => setNamed(""),
    touches,
  });
  const add = (event: FormEvent) => {
    event.preventDefault();
    const name = named.trim() || `Wall ${(found.data?.length ?? 0) + 1}`;
    make.mutate({ name, programme: Number(of) || null });
  };
  return (
    <>
      <Button variant="default" onClick={dialog.open}>
        Screens
      </Button>
      <Modal opened={opened} onClose={dialog.close} title="Screens" size="lg">
        <p>
          Any screen in the gym that opens one of these addresses shows board and clock, without
          signing in. Whoever has the address sees them too: withdraw it when it got about.
        </p>
        <ul className={styles.walls}>
          {found.data?.map((one) => (
            <Wall key={one.token} one={one} lines={lines} />
          ))}
        </ul>
        <form className={styles.make} aria-label="A link for a display" onSubmit={add}>
          <TextInput
            label="Name of the display"
            placeholder={`Wall ${(found.data?.length ?? 0) + 1}`}
            data-holds
            value={named}
            onChange={(event) => setNamed(event.currentTarget.value)}
          />
          {lines.length > 1 && (
            <NativeSelect
              label="Shows"
              value={of}
              data={[
                { value: "", label: "whatever is on the clock" },
                ...lines.map((one) => ({ value: String(one.id), label: `${one.name} alone` })),
              ]}
              onChange={(event) => setOf(event.currentTarget.value)}
            />
          )}
          <Button type="submit" loading={make.isPending}>
            Make a link for a display
          </Button>
        </form>
      </Modal>
    </>
  );
}
