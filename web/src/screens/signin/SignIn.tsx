// The front door.

import { Button, PasswordInput, TextInput } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { at } from "../../api/base";
import { api, ask, type Schemas } from "../../api/client";
import { frontDoor, me as meQuery } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { setSignedOut } from "../../app/client";
import { ForgotPassword } from "./ForgotPassword";
import styles from "./SignIn.module.css";

export function SignIn() {
  const door = useQuery(frontDoor);
  const client = useQueryClient();
  const [problem, setProblem] = useState("");
  const entering = useWrite((call: () => Promise<Schemas["Me"]>) => call(), {
    onDone: (found) => {
      const before = client.getQueryData(meQuery.queryKey);
      if (before && before.id !== found.id) {
        // Another person: nothing that was seen in this browser stays, what waits to be sent does.
        window.location.assign(at("/"));
        return;
      }
      if (!before) client.removeQueries({ predicate: (query) => query.queryKey[0] !== "me" });
      client.setQueryData(meQuery.queryKey, found);
      setSignedOut(false);
      client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "me" });
    },
    onRefused: (refusal) => setProblem(refusal.message),
  });
  const busy = entering.isPending;
  const enter = entering.mutate;

  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const body = { email: String(form.get("email")), password: String(form.get("password")) };
    enter(() => ask(api.POST("/api/sign-in", { body })));
  };

  return (
    <main className={styles.door}>
      <div className={styles.panel}>
        <p className={styles.brand}>Pine Ladder</p>
        <h1>{door.data?.gym ?? "Sign in"}</h1>
        <form onSubmit={submit} className="stack">
          <TextInput name="email" type="email" label="E-mail" autoComplete="username" required />
          <PasswordInput
            name="password"
            label="Password"
            autoComplete="current-password"
            required
            error={problem}
          />
          <Button type="submit" loading={busy}>
            Sign in
          </Button>
        </form>
        <ForgotPassword />
        {door.data?.demo && (
          <section className={styles.demo} aria-label="Demo">
            <h2>This is the demo. Step in as</h2>
            <div className={styles.people}>
              {door.data.people.map((person) => (
                <Button
                  key={person.id}
                  variant="default"
                  disabled={busy}
                  onClick={() =>
                    enter(() =>
                      ask(api.POST("/api/demo/sign-in", { body: { person_id: person.id } })),
                    )
                  }
                >
                  {person.name} <small>{person.role}</small>
                </Button>
              ))}
            </div>
          </section>
        )}
      </div>
    </main>
  );
}
