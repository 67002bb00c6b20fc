// A movement in motion, as large as its place; nothing until it is there.
import { useQuery } from "@tanstack/react-query";
import { figure } from "../api/figures";
import { Figure } from "./Figure";

export function AnimatedFigure({ name }: { name: string }) {
  const found = useQuery(figure(name));
  return found.data ? <Figure cycle={found.data} /> : null;
}
