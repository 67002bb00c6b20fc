// What became of keeping the floor's notes as scores, in words.
import type { Schemas } from "../api/client";

export const savedMessage = ({ kept, refused }: Schemas["KeptOut"]): string =>
  [`${kept} kept as scores`, ...refused.map((one) => `${one.name}: ${one.reason}`)].join(" · ");
