// No gym is here yet: one form opens it, with the code that the start command printed.

import { Autocomplete, Button, PasswordInput, Select, Textarea, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";
import { at } from "../../api/base";
import { api, ask, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writes";
import { WEEKDAYS } from "../../ui/dates";
import styles from "./SignIn.module.css";

const ZONES = Intl.supportedValuesOf("timeZone");
const lines = (text: string) => text.split("\n").filter((line) => line.trim());

export function SetUp() {
  const [form, setForm] = useState({
    code: "",
    name: "",
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    unit: "kg" as "kg" | "lb",
    coach: "",
    email: "",
    password: "",
    tiers: "As written\nScaled\nStarter",
    tracks: "Heavier\nLighter",
    classes: WEEKDAYS.map(() => ""),
  });
  const [problem, setProblem] = useState("");
  const set = (change: Partial<typeof form>) => {
    setProblem("");
    setForm((before) => ({ ...before, ...change }));
  };
  const open = useWrite((body: Schemas["Opening"]) => ask(api.POST("/api/setup", { body })), {
    // Everything is read anew, as of a gym that is there.
    onDone: () => window.location.assign(at("/first-evening")),
    onRefused: (refusal) => setProblem(refusal.message),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    open.mutate({ ...form, tiers: lines(form.tiers), tracks: lines(form.tracks) });
  };
  const text = (field: "code" | "name" | "coach" | "email", label: string, more: object = {}) => (
    <TextInput
      label={label}
      required
      value={form[field]}
      onChange={(event) => set({ [field]: event.currentTarget.value })}
      {...more}
    />
  );
  return (
    <main className={styles.door}>
      <div className={`${styles.panel} ${styles.widePanel}`}>
        <p className={styles.brand}>Pine Ladder</p>
        <h1>Open your gym</h1>
        <form onSubmit={submit} className={styles.setUp}>
          <div className="stack">
            {text("code", "Set-up code", {
              description: "The start command printed it",
              autoComplete: "off",
            })}
            {text("name", "Name of the gym")}
            <Autocomplete
              label="Time zone of the gym"
              description="Its days and classes are those there"
              data={ZONES}
              limit={8}
              value={form.zone}
              onChange={(zone) => set({ zone })}
            />
            <Select
              label="Default weight unit"
              allowDeselect={false}
              data={["kg", "lb"]}
              value={form.unit}
              onChange={(unit) => set({ unit: unit === "lb" ? "lb" : "kg" })}
            />
          </div>
          <div className="stack">
            {text("coach", "Your name", { autoComplete: "name" })}
            {text("email", "E-mail", {
              type: "email",
              autoComplete: "username",
              description: "You sign in with it, as the first coach",
            })}
            <PasswordInput
              label="Password"
              description="Three or four unrelated words make a good one"
              autoComplete="new-password"
              required
              value={form.password}
              onChange={(event) => set({ password: event.currentTarget.value })}
            />
          </div>
          <fieldset className={styles.laterOn}>
            <legend>May all be changed later</legend>
            <div className={styles.twoSides}>
              <Textarea
                label="Tiers, a line each"
                description="The first is the board as written"
                autosize
                value={form.tiers}
                onChange={(event) => set({ tiers: event.currentTarget.value })}
              />
              <Textarea
                label="Load tracks, a line each"
                description="24/16 kg: the first number, the second"
                autosize
                value={form.tracks}
                onChange={(event) => set({ tracks: event.currentTarget.value })}
              />
            </div>
            <p>Classes of the week, as in 6:30, 12:15, 18:00</p>
            <div className={styles.weekdays}>
              {WEEKDAYS.map((day, at) => (
                <TextInput
                  key={day}
                  label={day}
                  size="xs"
                  value={form.classes[at]}
                  onChange={(event) => {
                    const value = event.currentTarget.value;
                    set({ classes: form.classes.map((one, i) => (i === at ? value : one)) });
                  }}
                />
              ))}
            </div>
          </fieldset>
          {problem && (
            <p role="alert" className={styles.problem}>
              {problem}
            </p>
          )}
          <Button type="submit" loading={open.isPending}>
            Open the gym
          </Button>
        </form>
      </div>
    </main>
  );
}
