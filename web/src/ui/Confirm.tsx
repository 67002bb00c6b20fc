// A question before something that cannot be taken back lightly.
import { Button, Group, Modal } from "@mantine/core";
import { useState } from "react";

type Question = {
  title: string;
  text: string;
  verb: string;
  /** The way back, where "Cancel" could be taken for the act. */
  back?: string;
  act: () => void;
};

/** The dialog to draw, and a way to ask: `act` is done once the verb is pressed. */
export function useConfirm(): [dialog: React.ReactNode, ask: (question: Question) => void] {
  const [question, ask] = useState<Question | null>(null);
  const close = () => ask(null);
  const dialog = question && (
    <Modal opened onClose={close} title={question.title} centered>
      <p>{question.text}</p>
      <Group mt="md">
        <Button
          data-autofocus
          onClick={() => {
            close();
            question.act();
          }}
        >
          {question.verb}
        </Button>
        <Button variant="default" onClick={close}>
          {question.back ?? "Cancel"}
        </Button>
      </Group>
    </Modal>
  );
  return [dialog, ask];
}
