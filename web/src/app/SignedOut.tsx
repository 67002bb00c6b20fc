// The sign-in that ended under a page in use.
import { Modal } from "@mantine/core";
import { SignIn } from "../screens/signin/SignIn";

export function SignedOut() {
  return (
    <Modal
      opened
      onClose={() => undefined}
      withCloseButton={false}
      title="You were signed out. What you typed is kept below."
    >
      <SignIn />
    </Modal>
  );
}
