// What is wrong stands below its line, with its ways out; the line being typed is left in peace.
import { type EditorState, StateEffect, StateField } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView, WidgetType } from "@codemirror/view";
import type { Schemas } from "../../../api/client";

type Finding = Schemas["Finding"];
type Repair = Schemas["Repair"];
type Place = { at: number; found: readonly Finding[] };
/** What a press at a line does: apply a way out, or add a movement to the library. */
type Presses = {
  repair: (view: EditorView, repair: Repair) => void;
  add: (finding: Finding) => void;
};

/** Ways out that stand at the line; more of them are in the list below the text. */
const MOST = 3;
/** The code of a finding on a movement that the library has not. */
export const UNKNOWN = "unknown-movement";
const MARKS: Record<string, string> = { error: "✕", question: "?", warning: "▲" };

class Note extends WidgetType {
  constructor(
    readonly found: readonly Finding[],
    readonly presses: Presses,
  ) {
    super();
  }
  override eq(other: Note) {
    return JSON.stringify(other.found) === JSON.stringify(this.found);
  }
  toDOM(view: EditorView) {
    const note = document.createElement("div");
    note.className = "cm-note";
    for (const one of this.found) {
      const row = note.appendChild(document.createElement("div"));
      row.dataset.severity = one.severity;
      const mark = row.appendChild(document.createElement("span"));
      mark.className = "cm-note-mark";
      mark.textContent = MARKS[one.severity] ?? "";
      mark.setAttribute("role", "img");
      mark.setAttribute("aria-label", one.severity);
      row.appendChild(document.createElement("span")).textContent = one.message;
      const offer = (label: string, press: () => void) => {
        const button = row.appendChild(document.createElement("button"));
        button.type = "button";
        button.textContent = label;
        // The cursor stays where it is; the press is the button's alone.
        button.addEventListener("mousedown", (event) => event.preventDefault());
        button.addEventListener("click", press);
      };
      for (const repair of one.repairs.slice(0, MOST)) {
        offer(repair.label, () => this.presses.repair(view, repair));
      }
      if (one.code === UNKNOWN) offer("add it to the library", () => this.presses.add(one));
    }
    return note;
  }
  override ignoreEvent() {
    return true;
  }
}

const setPlaces = StateEffect.define<readonly Place[]>();

const places = StateField.define<readonly Place[]>({
  create: () => [],
  update(held, change) {
    for (const effect of change.effects) if (effect.is(setPlaces)) return effect.value;
    if (!change.docChanged) return held;
    const touched = new Set<number>();
    const { doc } = change.state;
    change.changes.iterChangedRanges((_from, _to, from, to) => {
      for (let at = doc.lineAt(from).number; at <= doc.lineAt(to).number; at += 1) touched.add(at);
    });
    return held
      .map((one) => ({ ...one, at: change.changes.mapPos(one.at) }))
      .filter((one) => !touched.has(doc.lineAt(one.at).number));
  },
});

/** What a reading found, told to the editor: errors and warnings, line by line. */
export function notesOf(state: EditorState, findings: readonly Finding[]): StateEffect<unknown> {
  const by = new Map<number, Finding[]>();
  for (const one of findings) {
    if (!(one.severity in MARKS) || one.line < 1 || one.line > state.doc.lines) continue;
    by.set(one.line, [...(by.get(one.line) ?? []), one]);
  }
  const lines = [...by].sort(([a], [b]) => a - b);
  return setPlaces.of(lines.map(([line, found]) => ({ at: state.doc.line(line).to, found })));
}

export function inlineFindings(presses: Presses) {
  const shown = (state: EditorState): DecorationSet => {
    const typing = state.doc.lineAt(state.selection.main.head).number;
    const marks = state
      .field(places)
      .map(({ at, found }) => ({ line: state.doc.lineAt(at), found }))
      .filter(({ line }) => line.number !== typing)
      .map(({ line, found }) =>
        Decoration.widget({ widget: new Note(found, presses), block: true, side: 1 }).range(
          line.to,
        ),
      );
    return Decoration.set(marks, true);
  };
  return [
    places,
    EditorView.decorations.compute([places, "selection", "doc"], shown),
    EditorView.theme({
      ".cm-note": {
        // Not a margin: the numbers beside the text would not count it.
        padding: "0 8px 4px 2ch",
        color: "var(--soft)",
        fontFamily: "inherit",
        fontSize: "0.87em",
        lineHeight: "1.5",
        whiteSpace: "normal",
      },
      ".cm-note-mark": { display: "inline-block", width: "2ch" },
      ".cm-note [data-severity=error] .cm-note-mark": { color: "var(--error)" },
      ".cm-note [data-severity=question] .cm-note-mark": { color: "var(--resin)" },
      ".cm-note [data-severity=warning] .cm-note-mark": { color: "var(--resin)" },
      ".cm-note button": {
        marginLeft: "1ch",
        padding: "1px 7px",
        border: "1px solid var(--line)",
        borderRadius: "3px",
        background: "var(--card)",
        color: "var(--ink)",
        font: "inherit",
        cursor: "pointer",
      },
    }),
  ];
}
