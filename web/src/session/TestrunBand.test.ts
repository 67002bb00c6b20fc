// What the test-run says of an aim is drawn by the words that the server sends.
import { readFileSync } from "node:fs";
import { expect, test } from "vitest";

const read = (path: string) => readFileSync(`${__dirname}/${path}`, "utf8");

test("the styles of an aim name words that the server sends", () => {
  const sent = /aim: ("" \| [^;]+);/.exec(read("../api/schema.ts"))?.[1]?.match(/"([^"]+)"/g);
  const styled = read("TestrunBand.module.css").match(/data-aim=("[^"]+")/g);
  expect(sent).toContain('"on target"');
  expect(styled?.length).toBeGreaterThan(0);
  for (const one of styled ?? []) expect(sent).toContain(one.slice("data-aim=".length));
});
