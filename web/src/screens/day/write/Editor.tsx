// The board's text: CodeMirror with the notation's colours, completion and problems in place.
import {
  acceptCompletion,
  autocompletion,
  closeBrackets,
  completionKeymap,
  completionStatus,
  moveCompletionSelection,
  selectedCompletionIndex,
} from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap, isolateHistory, undo } from "@codemirror/commands";
import { type Diagnostic, lintGutter, setDiagnostics } from "@codemirror/lint";
import { EditorState, Transaction } from "@codemirror/state";
import {
  type Command,
  EditorView,
  highlightActiveLine,
  keymap,
  lineNumbers,
} from "@codemirror/view";
import { useEffect, useImperativeHandle, useRef } from "react";
import type { Schemas } from "../../../api/client";
import styles from "./Editor.module.css";
import { acceptReading, ghostsOf, ghostText, READ_AS } from "./ghostText";
import { inlineFindings, notesOf } from "./inlineFindings";
import { completion, notation } from "./notation";
import { textChange } from "./textChange";

type Finding = Schemas["Finding"];
type Repair = Schemas["Repair"];

export type EditorHandle = {
  focus: () => void;
  undo: () => void;
  replace: (text: string) => void;
  /** Put another person's text in place; false while there is no editor. Undo leaves it alone. */
  renew: (text: string) => boolean;
  repair: (repair: Repair) => void;
  text: () => string;
  /** After the piece that holds a line; after the one being written where none is named. */
  insert: (piece: string, line?: number) => void;
  insertLine: (line: string) => void;
  pieceText: (line: number, next: number | null) => string;
  lineText: (line: number) => string;
  setLine: (line: number, text: string) => void;
  goTo: (line: number) => void;
};

const look = EditorView.theme({
  "&": { height: "100%", fontSize: "15.5px", backgroundColor: "var(--card)", color: "var(--ink)" },
  "&.cm-focused": { outline: "none" },
  ".cm-scroller": { fontFamily: "var(--mono)", lineHeight: "1.55" },
  ".cm-content": { caretColor: "var(--ink)", padding: "10px 0" },
  ".cm-cursor": { borderLeftColor: "var(--ink)", borderLeftWidth: "2px" },
  ".cm-gutters": { backgroundColor: "var(--card)", color: "var(--soft)", border: "none" },
  ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "var(--pine-wash)" },
  "&.cm-focused .cm-selectionBackground, .cm-selectionBackground": {
    backgroundColor: "var(--resin-wash) !important",
  },
  ".cm-tooltip": {
    backgroundColor: "var(--card)",
    color: "var(--ink)",
    border: "1px solid var(--line)",
  },
  ".cm-tooltip-autocomplete > ul > li": { padding: "3px 8px" },
  ".cm-tooltip-autocomplete > ul > li[aria-selected]": {
    backgroundColor: "var(--t-solid)",
    color: "var(--t-ink)",
  },
  ".cm-diagnostic": { fontFamily: "inherit" },
  ".cm-lintRange-error": {
    backgroundImage: "none",
    textDecoration: "underline wavy var(--error) 1.5px",
    textUnderlineOffset: "4px",
  },
  ".cm-lintRange-warning, .cm-lintRange-hint": {
    backgroundImage: "none",
    textDecoration: "underline dotted var(--resin-line) 2px",
    textUnderlineOffset: "4px",
  },
});

/**
 * Take the word that is offered, the first where none is chosen. Enter takes a chosen one alone:
 * who just ends a line keeps what was typed, however long the list has stood open.
 */
const takeOffered: Command = (view) => {
  if (completionStatus(view.state) !== "active") return false;
  if (selectedCompletionIndex(view.state) === null) moveCompletionSelection(true)(view);
  return acceptCompletion(view);
};

/** A change made with a click is a step of its own to undo, however fast the next one comes. */
const alone = isolateHistory.of("full");

/** All edits of a repair at once, so that one undo takes it back. */
function applyRepair(view: EditorView, repair: Repair): void {
  const { doc } = view.state;
  const changes = repair.edits.map((edit) => {
    if (edit.line > doc.lines) {
      const gap = "\n".repeat(2 - (/\n*$/.exec(doc.toString())?.[0].slice(0, 2).length ?? 0));
      return { from: doc.length, insert: `${gap}${edit.text}\n` };
    }
    const line = doc.line(edit.line);
    const from = Math.min(line.from + edit.start - 1, line.to);
    return { from, to: Math.min(line.from + edit.end - 1, line.to), insert: edit.text };
  });
  view.dispatch({ changes, annotations: alone });
  view.focus();
}

/** Put a piece after the one that holds a line or the cursor, a blank line on both sides. */
function insertPiece(view: EditorView, piece: string, line?: number): void {
  const { doc, selection } = view.state;
  const held = line ?? doc.lineAt(selection.main.head).number;
  // Before the first piece where the line is that of the session's title.
  let number = held + 1;
  while (number <= doc.lines && !/^\s*##/.test(doc.line(number).text)) number += 1;
  const from = number <= doc.lines ? doc.line(number).from : doc.length;
  const before = doc.sliceString(0, from);
  const gap = before.trim() === "" ? "" : "\n".repeat(2 - (/\n*$/.exec(before)?.[0].length ?? 0));
  const insert = `${gap}${piece}\n${number <= doc.lines ? "\n" : ""}`;
  const start = from + gap.length;
  view.dispatch({
    changes: { from, insert },
    annotations: alone,
    selection: { anchor: start + piece.length },
    effects: EditorView.scrollIntoView(start, { y: "center" }),
  });
  view.focus();
}

/** Room below the line being typed, in pixels: a line more stays in sight. */
const ROOM = 26;

function diagnostics(state: EditorState, findings: readonly Finding[]): Diagnostic[] {
  return findings
    .filter((finding) => finding.code !== READ_AS)
    .filter((finding) => finding.line >= 1 && finding.line <= state.doc.lines)
    .map((finding) => {
      const line = state.doc.line(finding.line);
      const whole = finding.end_column === 0;
      return {
        from: Math.min(line.from + finding.column - 1, line.to),
        to: whole ? line.to : Math.min(line.from + finding.end_column - 1, line.to),
        severity: finding.severity === "question" ? "info" : finding.severity,
        message: finding.message,
        actions: finding.repairs.map((repair) => ({
          name: repair.label,
          apply: (view: EditorView) => applyRepair(view, repair),
        })),
      };
    });
}

export function Editor({
  initial,
  words,
  kept,
  findings,
  onChange,
  onAdd,
  handle,
}: {
  initial: string;
  words: Schemas["BoardWords"];
  kept: readonly Schemas["Kept"][];
  findings: { text: string; list: readonly Finding[] };
  onChange: (text: string) => void;
  onAdd: (finding: Finding) => void;
  handle: React.Ref<EditorHandle>;
}) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const change = useRef(onChange);
  change.current = onChange;
  const add = useRef(onAdd);
  add.current = onAdd;
  const complete = useRef(completion(words, kept));
  useEffect(() => {
    complete.current = completion(words, kept);
  }, [words, kept]);

  // The editor is made once and owns its text from then on.
  useEffect(() => {
    const made = new EditorView({
      parent: host.current as HTMLDivElement,
      state: EditorState.create({
        doc: initial,
        extensions: [
          lineNumbers(),
          lintGutter(),
          history(),
          closeBrackets(),
          highlightActiveLine(),
          EditorView.lineWrapping,
          EditorView.scrollMargins.of(() => ({ bottom: ROOM })),
          notation,
          look,
          ghostText,
          inlineFindings({ repair: applyRepair, add: (finding) => add.current(finding) }),
          autocompletion({
            override: [(at) => complete.current(at)],
            icons: false,
            selectOnOpen: false,
          }),
          keymap.of([
            { key: "Tab", run: takeOffered },
            { key: "Tab", run: acceptReading },
            ...completionKeymap,
            ...defaultKeymap,
            ...historyKeymap,
          ]),
          EditorView.contentAttributes.of({
            "aria-label": "Board text",
            spellcheck: "false",
            autocapitalize: "off",
          }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) change.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    // Long boards scroll: the keyboard must reach the scrolled part as well.
    made.scrollDOM.tabIndex = 0;
    view.current = made;
    // What is noticed below takes room: the line that is being typed stays in sight.
    const watch = new ResizeObserver(() => {
      if (!made.hasFocus) return;
      const { head } = made.state.selection.main;
      made.dispatch({ effects: EditorView.scrollIntoView(head, { y: "nearest", yMargin: ROOM }) });
    });
    watch.observe(made.scrollDOM);
    return () => {
      watch.disconnect();
      made.destroy();
    };
  }, []);

  useEffect(() => {
    const made = view.current;
    // Findings of an older text would point at the wrong places.
    if (!made || made.state.doc.toString() !== findings.text) return;
    made.dispatch(setDiagnostics(made.state, diagnostics(made.state, findings.list)));
    made.dispatch({
      effects: [ghostsOf(made.state, findings.list), notesOf(made.state, findings.list)],
    });
  }, [findings]);

  useImperativeHandle(handle, () => ({
    undo: () => {
      if (view.current) undo(view.current);
    },
    focus: () => view.current?.focus(),
    replace: (text) => {
      const made = view.current;
      made?.dispatch({
        changes: { from: 0, to: made.state.doc.length, insert: text },
        annotations: alone,
      });
    },
    renew: (text) => {
      const made = view.current;
      made?.dispatch({
        changes: textChange(made.state.doc.toString(), text),
        annotations: [Transaction.addToHistory.of(false), Transaction.remote.of(true)],
      });
      return made !== undefined;
    },
    repair: (repair) => {
      if (view.current) applyRepair(view.current, repair);
    },
    text: () => view.current?.state.doc.toString() ?? "",
    lineText: (number) => {
      const doc = view.current?.state.doc;
      return doc && number <= doc.lines ? doc.line(number).text : "";
    },
    setLine: (number, text) => {
      const made = view.current;
      if (!made || number > made.state.doc.lines) return;
      const { from, to } = made.state.doc.line(number);
      made.dispatch({ changes: { from, to, insert: text }, annotations: alone });
    },
    insert: (piece, line) => {
      if (view.current) insertPiece(view.current, piece, line);
    },
    insertLine: (line) => {
      const made = view.current;
      if (!made) return;
      const at = made.state.doc.lineAt(made.state.selection.main.head);
      const bare = at.text.trim() === "";
      const change = { from: bare ? at.from : at.to, to: at.to, insert: bare ? line : `\n${line}` };
      made.dispatch({
        changes: change,
        annotations: alone,
        selection: { anchor: change.from + change.insert.length },
        scrollIntoView: true,
      });
      made.focus();
    },
    pieceText: (line, next) => {
      const doc = view.current?.state.doc;
      if (!doc || line > doc.lines) return "";
      const to = next === null || next > doc.lines ? doc.length : doc.line(next).from;
      return doc.sliceString(doc.line(line).from, to).trimEnd();
    },
    goTo: (number) => {
      const made = view.current;
      if (!made || number > made.state.doc.lines) return;
      const line = made.state.doc.line(number);
      made.dispatch({
        selection: { anchor: line.from },
        effects: EditorView.scrollIntoView(line.from, { y: "start", yMargin: 30 }),
      });
    },
  }));

  return <div ref={host} className={styles.writeEditor} />;
}
