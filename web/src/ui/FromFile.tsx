// Text that comes from a file of the device, beside a field to paste it into.
import { Button, FileButton } from "@mantine/core";

export function FromFile({ onText }: { onText: (text: string) => void }) {
  return (
    <FileButton
      accept="text/csv,.csv,.txt"
      onChange={async (file) => file && onText(await file.text())}
    >
      {(props) => (
        <Button {...props} variant="default">
          From a file
        </Button>
      )}
    </FileButton>
  );
}
