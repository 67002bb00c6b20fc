// Every style a component names is written beside it, and every style written is named somewhere.
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { expect, test } from "vitest";

const ROOT = "src";
const files = readdirSync(ROOT, { recursive: true }).map((name) => join(ROOT, String(name)));
const sheets = files.filter((name) => name.endsWith(".module.css"));
const camel = (name) => name.replace(/-([a-z0-9])/g, (_, letter) => letter.toUpperCase());

const named = new Map(sheets.map((sheet) => [sheet, new Set()]));
for (const file of files.filter((name) => name.endsWith(".tsx"))) {
  const text = readFileSync(file, "utf8");
  for (const [, styles, from] of text.matchAll(/import (\w+) from "(\S+\.module\.css)"/g)) {
    const sheet = named.get(join(dirname(file), from));
    for (const [, name] of text.matchAll(new RegExp(`\\b${styles}\\.(\\w+)`, "g"))) {
      sheet?.add(name);
    }
  }
}

test.each(sheets)("%s holds what is named, and nothing else", (sheet) => {
  const text = readFileSync(sheet, "utf8").replace(/\/\*[\s\S]*?\*\//g, "");
  const selectors = text.replace(/\{[^{}]*\}/g, "{}").replace(/:global\([^)]*\)/g, "");
  const written = new Set([...selectors.matchAll(/\.([a-z][\w-]*)/g)].map((one) => camel(one[1])));
  expect([...written].sort()).toEqual([...(named.get(sheet) ?? [])].sort());
});
