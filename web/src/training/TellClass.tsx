// A word of the coach to a class: on their phones, and by mail where the gym has it.
import { Button, Checkbox, Modal, NativeSelect, Textarea } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { notifications } from "@mantine/notifications";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { floor as floorQuery } from "../api/queries";
import { useWrite } from "../api/writes";
import { newKey } from "../offline/queue";
import wordStyles from "../ui/words.module.css";

function Form({ date, first, close }: { date: string; first: number | null; close: () => void }) {
  const held = useQuery(floorQuery(date)).data?.classes.filter((one) => one.id !== null) ?? [];
  const [of, setOf] = useState(first === null ? "" : String(first));
  const [word, setWord] = useState("");
  const [board, setBoard] = useState(true);
  const [results, setResults] = useState(false);
  const [problem, setProblem] = useState("");
  // One key a dialog: pressed twice, or sent again after a lost answer, it is said once.
  const [key] = useState(newKey);
  const tell = useWrite(
    (body: Schemas["TellForm"]) =>
      ask(api.POST("/api/days/{date}/tell", { params: { path: { date } }, body })),
    {
      onDone: ({ letters }) => {
        const mailed = letters === 1 ? " 1 letter goes out." : ` ${letters} letters go out.`;
        notifications.show({ message: `Said on their phones.${letters ? mailed : ""}` });
        close();
      },
      onRefused: (refusal) => setProblem(refusal.message),
    },
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    setProblem("");
    tell.mutate({ class_id: Number(of) || null, word, board, results, key });
  };
  return (
    <form onSubmit={send} className="stack">
      <NativeSelect
        label="To"
        value={of}
        data={[
          { value: "", label: "everybody of this day" },
          ...held.map((one) => ({
            value: String(one.id),
            label: `the class at ${one.start.slice(0, 5)}`,
          })),
        ]}
        onChange={(event) => setOf(event.currentTarget.value)}
      />
      <Textarea
        label="Word"
        required
        data-autofocus
        autosize
        minRows={3}
        maxLength={1000}
        value={word}
        onChange={(event) => setWord(event.currentTarget.value)}
      />
      <Checkbox
        label="With the board, by mail"
        checked={board}
        onChange={(event) => setBoard(event.currentTarget.checked)}
      />
      <Checkbox
        label="With the results, by mail; who hides from standings is left out"
        checked={results}
        onChange={(event) => setResults(event.currentTarget.checked)}
      />
      {problem && (
        <p role="alert" className={wordStyles.cellWords} data-state="refused">
          {problem}
        </p>
      )}
      <Button type="submit" loading={tell.isPending}>
        Send
      </Button>
    </form>
  );
}

/** The button and its dialog; `classId` is the class that is looked at. */
export function TellClass({ date, classId = null }: { date: string; classId?: number | null }) {
  const [opened, dialog] = useDisclosure();
  return (
    <>
      <Button variant="default" onClick={dialog.open}>
        Message the class
      </Button>
      <Modal opened={opened} onClose={dialog.close} title="Message the class">
        <Form date={date} first={classId} close={dialog.close} />
      </Modal>
    </>
  );
}
