// A form over the text, which it writes; the board beside it stays in view.
import { Drawer } from "@mantine/core";

export function SideForm({
  title,
  onClose,
  children,
}: {
  title: string;
  onClose: () => void;
  children: React.ReactNode;
}) {
  return (
    <Drawer
      opened
      onClose={onClose}
      title={title}
      position="left"
      size="min(680px, 100vw)"
      withOverlay={false}
      lockScroll={false}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      {children}
    </Drawer>
  );
}
