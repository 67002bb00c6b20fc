// A one-time link was followed: a password is set, and its owner steps in.

import { Button, PasswordInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { at } from "../../api/base";
import { api, ask } from "../../api/client";
import { useWrite } from "../../api/writes";
import { Failed, Waiting } from "../../ui/states";
import styles from "./SignIn.module.css";

export function Join({ token }: { token: string }) {
  const path = { token };
  const invited = useQuery({
    queryKey: ["join", token],
    queryFn: ({ signal }) => ask(api.GET("/api/links/{token}", { params: { path }, signal })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [problem, setProblem] = useState("");
  const enter = useWrite(
    (password: string) =>
      ask(api.POST("/api/links/{token}", { params: { path }, body: { password } })),
    {
      // Nothing that another person saw in this browser stays.
      onDone: () => window.location.assign(at("/")),
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const [first, again] = [String(form.get("password")), String(form.get("again"))];
    if (first !== again) {
      setProblem("the two are not the same");
      return;
    }
    setProblem("");
    enter.mutate(first);
  };
  return (
    <main className={styles.door}>
      <div className={styles.panel}>
        <p className={styles.brand}>Pine Ladder</p>
        {invited.isPending && <Waiting />}
        {invited.error && (
          <>
            <h1>This link is over</h1>
            <Failed error={invited.error} />
            <p>
              <Link to="/">Sign in</Link>
            </p>
          </>
        )}
        {invited.data && (
          <>
            <h1>{invited.data.gym}</h1>
            <p>
              {invited.data.signs_in ? "A new password for" : "Welcome,"} {invited.data.name}. You
              sign in with {invited.data.email}.
            </p>
            <form onSubmit={submit} className="stack">
              <input
                type="hidden"
                name="email"
                autoComplete="username"
                value={invited.data.email}
              />
              <PasswordInput
                name="password"
                label="Password"
                description="Three or four unrelated words make a good one"
                autoComplete="new-password"
                required
                error={problem}
              />
              <PasswordInput
                name="again"
                label="The same again"
                autoComplete="new-password"
                required
              />
              <Button type="submit" loading={enter.isPending}>
                Set it and step in
              </Button>
            </form>
          </>
        )}
      </div>
    </main>
  );
}
