// What opens under the name of who is signed in: another password, and the way out.
import { Button, Menu, Modal, PasswordInput } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { notifications } from "@mantine/notifications";
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { useWrite } from "../api/writes";
import styles from "./Frame.module.css";
import { KEPT } from "./storedQueries";

export function PasswordDialog({ opened, close }: { opened: boolean; close: () => void }) {
  const [problem, setProblem] = useState("");
  const write = useWrite(
    (body: Schemas["PasswordForm"]) => ask(api.POST("/api/password", { body })),
    {
      onDone: () => {
        notifications.show({ message: "Password changed. Other devices are signed out." });
        close();
      },
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const change = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    write.mutate({ current: String(form.get("current")), new: String(form.get("new")) });
  };
  return (
    <Modal opened={opened} onClose={close} title="Change password">
      <form onSubmit={change} className="stack">
        <PasswordInput name="current" label="Current password" required data-autofocus />
        <PasswordInput
          name="new"
          label="New password"
          description="At least 10 characters"
          required
          error={problem}
        />
        <Button type="submit">Change password</Button>
      </form>
    </Modal>
  );
}

/** Signs out, and leaves nothing of the person on this device. */
export function useSignOut() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useWrite(() => ask(api.POST("/api/sign-out")), {
    onDone: () => {
      client.clear();
      localStorage.removeItem(KEPT);
      navigate("/");
      window.location.reload();
    },
  });
}

/** The menu, open: it is loaded by the first press on the name. */
export function PersonMenu({ me }: { me: Schemas["Me"] }) {
  const [asking, dialog] = useDisclosure();
  const navigate = useNavigate();
  const leaving = useSignOut();
  return (
    <>
      <Menu position="bottom-end" defaultOpened>
        <Menu.Target>
          <button type="button" className={styles.who}>
            {me.name}
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Label>{me.role === "coach" ? "Coach" : "Athlete"}</Menu.Label>
          <Menu.Item onClick={() => navigate("/account")}>Settings and privacy</Menu.Item>
          <Menu.Item onClick={dialog.open}>Change password</Menu.Item>
          <Menu.Item onClick={() => leaving.mutate(undefined)}>Sign out</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <PasswordDialog opened={asking} close={dialog.close} />
    </>
  );
}
