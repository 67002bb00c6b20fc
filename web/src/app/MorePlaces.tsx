// On a phone: every place that has no tab, the programme, and what belongs to the person.
import { Modal, useComputedColorScheme, useMantineColorScheme } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useLines } from "../api/useLines";
import { PasswordDialog, useSignOut } from "./PersonMenu";
import styles from "./PhoneTabs.module.css";
import { ProgrammeSwitch } from "./ProgrammeSwitch";

type Place = { label: string; to: string };

function placesOf(me: Schemas["Me"], date: string): Place[] {
  const mine = me.trains
    ? [
        { label: "My day", to: `/me/${date}` },
        { label: "About me", to: "/profile" },
      ]
    : [];
  if (me.role !== "coach") {
    return [
      { label: "Movements", to: "/movements" },
      { label: "Bests of the gym", to: "/bests" },
    ];
  }
  return [
    { label: "Scale", to: `/day/${date}/scale` },
    { label: "Compare", to: `/day/${date}/compare` },
    { label: "Athletes", to: "/athletes" },
    { label: "Movements", to: "/movements" },
    { label: "Bests", to: "/bests" },
    { label: "Gym", to: "/gym" },
    ...mine,
  ];
}

export function MorePlaces({
  me,
  date,
  close,
}: {
  me: Schemas["Me"];
  date: string;
  close: () => void;
}) {
  const lines = useLines(me);
  const { setColorScheme } = useMantineColorScheme();
  const next = useComputedColorScheme("light") === "dark" ? "light" : "dark";
  const [asking, dialog] = useDisclosure();
  const signOut = useSignOut();
  return (
    <>
      <Modal opened onClose={close} title={me.name} size="md">
        <div className={styles.more}>
          {lines.length > 1 && (
            <div>
              <h2>Programme</h2>
              <ProgrammeSwitch lines={lines} onChosen={close} />
            </div>
          )}
          <ul>
            {placesOf(me, date).map((one) => (
              <li key={one.to}>
                <Link to={one.to} onClick={close}>
                  {one.label}
                </Link>
              </li>
            ))}
          </ul>
          <section>
            <h2>My account</h2>
            <ul>
              <li>
                <Link to="/account" onClick={close}>
                  Settings and privacy
                </Link>
              </li>
              <li>
                <button type="button" onClick={dialog.open}>
                  Change password
                </button>
              </li>
              <li>
                <button type="button" onClick={() => setColorScheme(next)}>
                  Switch to {next}
                </button>
              </li>
              <li>
                <button type="button" onClick={() => signOut.mutate(undefined)}>
                  Sign out
                </button>
              </li>
            </ul>
          </section>
        </div>
      </Modal>
      <PasswordDialog opened={asking} close={dialog.close} />
    </>
  );
}
