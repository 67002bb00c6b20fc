// How plain lines were read: a quiet ghost at the line's end, which Tab writes into the text.
import { isolateHistory } from "@codemirror/commands";
import { type EditorState, type Range, StateEffect, StateField } from "@codemirror/state";
import {
  type Command,
  Decoration,
  type DecorationSet,
  EditorView,
  WidgetType,
} from "@codemirror/view";
import type { Schemas } from "../../../api/client";

type Finding = Schemas["Finding"];

/** The code of a finding that tells how a plain line was read. */
export const READ_AS = "read-as";

class Ghost extends WidgetType {
  constructor(readonly exact: string) {
    super();
  }
  override eq(other: Ghost) {
    return other.exact === this.exact;
  }
  toDOM() {
    const ghost = document.createElement("span");
    ghost.className = "cm-ghost";
    ghost.setAttribute("aria-label", `read as ${this.exact}`);
    ghost.textContent = this.exact.split("\n").join(" · ");
    return ghost;
  }
  override ignoreEvent() {
    return false;
  }
}

const setGhosts = StateEffect.define<DecorationSet>();

const field = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(ghosts, change) {
    for (const effect of change.effects) if (effect.is(setGhosts)) return effect.value;
    if (!change.docChanged) return ghosts;
    const { doc } = change.state;
    const touched = new Set<number>();
    change.changes.iterChangedRanges((_from, _to, from, to) => {
      for (let at = doc.lineAt(from).number; at <= doc.lineAt(to).number; at += 1) touched.add(at);
    });
    // What is being typed says something else already: its ghost comes back with the next reading.
    return ghosts
      .map(change.changes)
      .update({ filter: (from) => !touched.has(doc.lineAt(from).number) });
  },
  provide: (ghosts) => EditorView.decorations.from(ghosts),
});

/** The ghosts of a reading, told to the editor. */
export function ghostsOf(state: EditorState, findings: readonly Finding[]): StateEffect<unknown> {
  const found: Range<Decoration>[] = [];
  for (const one of findings) {
    const exact = one.repairs[0]?.edits.at(-1)?.text;
    // A line that was read into its heading has no text of its own to show or to write.
    if (one.code !== READ_AS || !exact || one.line > state.doc.lines) continue;
    const at = state.doc.line(one.line).to;
    found.push(Decoration.widget({ widget: new Ghost(exact), side: 1 }).range(at));
  }
  return setGhosts.of(Decoration.set(found, true));
}

/** Write the reading of the cursor's line into the text; nothing where it has none. */
export const acceptReading: Command = (view) => {
  const line = view.state.doc.lineAt(view.state.selection.main.head);
  let exact: string | undefined;
  view.state.field(field).between(line.to, line.to, (_from, _to, mark) => {
    exact = (mark.spec.widget as Ghost).exact;
  });
  if (exact === undefined) return false;
  view.dispatch({
    changes: { from: line.from, to: line.to, insert: exact },
    selection: { anchor: line.from + exact.length },
    annotations: isolateHistory.of("full"),
  });
  return true;
};

export const ghostText = [
  field,
  EditorView.theme({
    ".cm-ghost": {
      marginLeft: "2ch",
      color: "var(--soft)",
      fontStyle: "italic",
      pointerEvents: "none",
    },
    ".cm-ghost::before": { content: '"⇥ "', fontStyle: "normal" },
  }),
];
