// How a movement on a board is shown: by a press on a phone, by pointing at a line on a desk.
import { createContext } from "react";

export type Shows = { movements: readonly string[]; tempo: string };

export type Showing = {
  /** A press on a movement's name. */
  press?: (shows: Shows) => void;
  /** A line that is pointed at, or has the focus; null when it is left. */
  point?: (shows: Shows | null) => void;
};

export const ShowingContext = createContext<Showing>({});
