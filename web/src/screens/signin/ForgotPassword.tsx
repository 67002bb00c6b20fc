// A way back in: by mail, or whom to ask.
import { Button, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { useWrite } from "../../api/writes";
import styles from "./SignIn.module.css";

export function ForgotPassword() {
  const [open, setOpen] = useState(false);
  const [told, setTold] = useState("");
  const send = useWrite(
    (email: string) => ask(api.POST("/api/sign-in/forgotten", { body: { email } })),
    {
      onDone: (answer) => setTold(answer.told),
      onRefused: (refusal) => setTold(refusal.message),
    },
  );
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    send.mutate(String(new FormData(event.currentTarget).get("email")));
  };
  if (!open) {
    return (
      <button type="button" className={styles.forgot} onClick={() => setOpen(true)}>
        Forgot your password?
      </button>
    );
  }
  return (
    <form className="stack" onSubmit={submit} aria-label="Forgotten password">
      <TextInput
        name="email"
        type="email"
        label="The address you sign in with"
        autoComplete="username"
        required
      />
      <Button type="submit" variant="default" loading={send.isPending}>
        Send a link
      </Button>
      {told && <p role="status">{told}</p>}
    </form>
  );
}
