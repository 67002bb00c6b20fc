// Colours and completion for the board's text. What the text means is the server's to say.
import {
  type Completion,
  type CompletionContext,
  type CompletionResult,
  snippetCompletion,
} from "@codemirror/autocomplete";
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from "@codemirror/language";
import type { EditorView } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import type { Schemas } from "../../../api/client";

type Words = Schemas["BoardWords"];
type Kept = Schemas["Kept"];

const language = StreamLanguage.define<{ heading: boolean }>({
  name: "board",
  startState: () => ({ heading: false }),
  token(stream, state) {
    if (stream.sol()) {
      state.heading = /^\s*##/.test(stream.string);
      if (/^\s*#[^#]/.test(stream.string)) {
        stream.skipToEnd();
        return "title";
      }
      if (stream.match(/^\s*>.*/)) return "comment";
      if (stream.match(/^\s*--+\s*$/)) return "separator";
      if (stream.match(/^\s*(date|class|track|note|buy-in|cash-out)\s*:/i)) return "keyword";
      if (stream.match(/^\s*\d+\)/)) return "keyword";
    }
    if (state.heading) {
      if (stream.match(/^#+|^"[^"]*"?/)) return "title";
      if (stream.match(/^\d[\d:/-]*/)) return "number";
      if (stream.match(/^[A-Za-z-]+/)) return "heading";
    }
    if (stream.match(/^@[^|,+—]*/)) return "number";
    if (stream.match(/^[|+,]/)) return "separator";
    if (stream.match(/^—.*/)) return "comment";
    if (stream.match(/^\d[\d:/.-]*/)) return "amount";
    if (stream.match(/^max\b/i)) return "amount";
    stream.next();
    return null;
  },
  tokenTable: {
    title: tags.heading1,
    heading: tags.heading2,
    amount: tags.strong,
    number: tags.number,
    keyword: tags.keyword,
    separator: tags.separator,
    comment: tags.comment,
  },
});

const colours = HighlightStyle.define([
  { tag: tags.heading1, fontWeight: "700", color: "var(--ink)" },
  { tag: tags.heading2, fontWeight: "650", color: "var(--pine)" },
  { tag: tags.strong, fontWeight: "700" },
  { tag: tags.number, color: "var(--pine-fresh)" },
  { tag: tags.keyword, color: "var(--bark)", fontWeight: "650" },
  { tag: tags.separator, color: "var(--resin)", fontWeight: "700" },
  { tag: tags.comment, color: "var(--soft)", fontStyle: "italic" },
]);

export const notation = [language, syntaxHighlighting(colours)];

const FORMATS: [string, string][] = [
  ["3 rounds", "${3} rounds"],
  ["4 sets", "${4} sets, rest ${1:30}"],
  ["AMRAP", "AMRAP ${12:00}"],
  ["every", "every ${2:00} x ${5}"],
  ["EMOM", "EMOM ${12:00}"],
  ["intervals", "intervals ${0:40}/${0:20} x ${4}"],
  ["Tabata", "Tabata"],
  ["for time", "for time, cap ${15:00}"],
  ["accumulate", "accumulate"],
  ["continuous", "continuous ${10:00}"],
];

/** A kept piece takes the place of the line that names it, apart from what stands around it. */
function putKept(piece: Kept) {
  return (view: EditorView, _chosen: Completion, from: number, to: number) => {
    const line = view.state.doc.lineAt(from);
    const above = line.number > 1 && view.state.doc.line(line.number - 1).text.trim() !== "";
    const insert = `${above ? "\n" : ""}${piece.text}\n`;
    view.dispatch({
      changes: { from, to, insert },
      selection: { anchor: from + insert.length },
      scrollIntoView: true,
      userEvent: "input.complete",
    });
  };
}

export function completion(words: Words, kept: readonly Kept[] = []) {
  const named: Completion[] = kept.map((piece) => ({
    label: piece.name,
    apply: putKept(piece),
    type: "text",
    detail: "kept piece",
    boost: 60,
  }));
  const movements = words.movements.flatMap((movement) => [
    { label: movement.name, type: "variable", detail: movement.patterns[0] },
    ...movement.aliases.map((alias) => ({
      label: alias,
      apply: movement.name,
      type: "variable",
      detail: movement.name,
      boost: -20,
    })),
  ]);
  const details = words.details.map((label) => ({ label, type: "keyword" }));
  const loads = words.loads.map((label) => ({ label, type: "constant" }));
  const modifiers = words.modifiers.map((label) => ({ label, type: "keyword" }));
  const roles = words.roles.map((label) => ({ label, type: "class" }));
  const formats = FORMATS.map(([label, text]) => snippetCompletion(text, { label, type: "type" }));

  return (context: CompletionContext): CompletionResult | null => {
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    const from = (pattern: RegExp) => {
      const found = pattern.exec(before);
      return found ? line.from + found.index + found[0].length - (found[1] ?? "").length : null;
    };
    const offer = (at: number | null, options: CompletionResult["options"]) =>
      at !== null && (context.explicit || at < context.pos)
        ? { from: at, options, validFor: /^[\w' -]*$/ }
        : null;
    if (/^\s*##/.test(before)) {
      if (!before.includes(":")) return offer(from(/##\s*([\w-]*)$/), roles);
      if (!before.includes(",")) return offer(from(/:\s*([\w -]*)$/), formats);
      return offer(from(/,\s*([\w ]*)$/), modifiers);
    }
    if (/^\s*[#>]/.test(before)) return null;
    if (/@[^|+]*$/.test(before)) {
      const load = /@\s*([\w./ %]*)$/.exec(before);
      const at = load ? line.from + load.index + load[0].length - (load[1] ?? "").length : null;
      return at === null ? null : { from: at, options: loads, validFor: /^[\w./ %]*$/ };
    }
    if (/,[^|+]*$/.test(before)) return offer(from(/,\s*([\w ]*)$/), details);
    return offer(
      from(/(?:^|[|+[]|\bor\b|\d\)|\d|\bm\b|\bs\b|\bcal\b|\bmax\b)\s+([A-Za-z][\w' -]*)?$/) ??
        from(/^([A-Za-z][\w' -]*)$/),
      /^[A-Za-z]/.test(before) ? [...named, ...movements] : movements,
    );
  };
}
