// Writing the day: text on the left, the board as athletes see it on the right.
import { Button, Menu, Modal, SegmentedControl, Select } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { Fragment, lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { api, ask, type Schemas } from "../../../api/client";
import { fileAt } from "../../../api/programme";
import { boardWords, keptPieces, preview, testrun } from "../../../api/queries";
import { useWrite } from "../../../api/writes";
import { type Saving, useSaving } from "../../../offline/saver";
import { Piece } from "../../../training/Board";
import { MovementForm } from "../../../training/MovementForm";
import { ShowingContext, type Shows } from "../../../training/movementDetail";
import { TestrunBand } from "../../../training/TestrunBand";
import { clockTime } from "../../../ui/dates";
import { useShortcuts } from "../../../ui/hotkeys";
import { Waiting } from "../../../ui/states";
import { Card } from "./Card";
import conflictStyles from "./conflict.module.css";
import { Earlier } from "./Earlier";
import { Editor, type EditorHandle } from "./Editor";
import { Findings } from "./Findings";
import { HeadingForm } from "./HeadingForm";
import { Insert } from "./Insert";
import { LineForm } from "./LineForm";
import { PieceTools } from "./PieceTools";
import { Publish } from "./Publish";
import { SaveTemplate } from "./SaveTemplate";
import { ScoreDestination } from "./ScoreDestination";
import { StartOptions } from "./StartOptions";
import { WarmUp } from "./WarmUp";
import styles from "./Write.module.css";

type Gym = Schemas["GymOut"];

const NONE: readonly Schemas["Kept"][] = [];

function Status({ status }: { status: Saving }) {
  const text = {
    saved: () => {
      const s = status as Extract<Saving, { state: "saved" }>;
      return s.at ? `Saved ${clockTime(s.at)} · version ${s.version}` : "Nothing saved yet";
    },
    typing: () => "Typing… kept in this browser",
    restored: () => {
      const { at } = status as Extract<Saving, { state: "restored" }>;
      return `Not saved: what you typed at ${clockTime(at)} on this device`;
    },
    saving: () => "Saving…",
    offline: () =>
      `${(status as Extract<Saving, { state: "offline" }>).message} Trying again by itself.`,
    refused: () => (status as Extract<Saving, { state: "refused" }>).message,
    conflict: () => "Someone else saved this day too: choose above",
    asked: () => "Not saved yet: say above where the scores belong",
  }[status.state]();
  return (
    <span role="status" data-state={status.state}>
      {text}
    </span>
  );
}

/** The board as a file, in and out, and the day on paper. */
function Files({
  date,
  tier,
  track,
  onOpen,
}: {
  date: string;
  tier: string;
  track: string | null;
  onOpen: (text: string) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const query = `tier=${tier}${track === null ? "" : `&track=${track}`}`;
  return (
    <>
      <input
        ref={file}
        type="file"
        accept=".board,text/plain"
        hidden
        aria-label="Board file"
        onChange={(event) => {
          event.currentTarget.files?.[0]?.text().then(onOpen);
          event.currentTarget.value = "";
        }}
      />
      <Menu position="top-start">
        <Menu.Target>
          <Button size="compact-sm" variant="default">
            Files
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => file.current?.click()}>Open a board file</Menu.Item>
          <Menu.Item component="a" href={fileAt(`/api/days/${date}/board`)} download>
            Save as a board file
          </Menu.Item>
          <Menu.Item component="a" href={fileAt(`/api/days/${date}/page?${query}`)} download>
            Page to print (PDF, this tier)
          </Menu.Item>
          <Menu.Item component="a" href={fileAt(`/api/days/${date}/page`)} download>
            Page to print (PDF, all tiers)
          </Menu.Item>
          <Menu.Item
            component="a"
            href={fileAt(`/api/days/${date}/plan`)}
            download={`${date}.json`}
          >
            Plan as JSON
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </>
  );
}

const LinePreview = lazy(() =>
  import("../../../training/LinePreview").then((m) => ({ default: m.LinePreview })),
);

type Open =
  | { what: "line"; line: number; text: string | null }
  | { what: "heading"; line: number; text: string };

export function Write({
  date,
  gym,
  saved,
  selected,
  onType,
}: {
  date: string;
  gym: Gym;
  saved: Schemas["DayOut"];
  selected: string | null;
  onType: (text: string) => void;
}) {
  const words = useQuery(boardWords);
  const kept = useQuery(keptPieces);
  const editor = useRef<EditorHandle>(null);
  const saving = useSaving(date, saved, (text) => editor.current?.renew(text) ?? false);
  const [text, setText] = useState(saving.first);
  const [settled] = useDebouncedValue(text, 180);
  const [tier, setTier] = useState("0");
  const [track, setTrack] = useState<string | null>(null);
  const read = useQuery(
    preview(date, settled, Number(tier), track === null ? null : Number(track)),
  );
  const foreseen = useQuery(testrun(settled, date));
  const findings = useMemo(() => {
    const seen = read.isPlaceholderData ? [] : (read.data?.findings ?? []);
    const ahead = foreseen.isPlaceholderData ? [] : (foreseen.data?.findings ?? []);
    const list = [...seen, ...ahead].sort((a, b) => a.line - b.line);
    return { text: settled, list };
  }, [read.data, read.isPlaceholderData, foreseen.data, foreseen.isPlaceholderData, settled]);
  // A piece has one key before its first save and another after: both readings are in board order.
  const worked = (read.data?.view.pieces ?? []).filter((piece) => piece.blocks.length > 0);
  const told = foreseen.data?.pieces ?? [];
  const runs = new Map(
    worked.length === told.length
      ? worked.map((piece, at) => [piece.key, told[at]])
      : told.map((piece) => [piece.key, piece]),
  );

  useEffect(() => onType(settled), [onType, settled]);

  const outline = read.data?.outline;
  const at = outline?.pieces.find((piece) => piece.key === selected)?.line;
  useEffect(() => {
    if (at) editor.current?.goTo(at);
    // Only a new choice on the ruler moves the text, not every keystroke.
  }, [at]);

  // On the way here the key opened this step; here it goes on to the text.
  const toText = useMemo(
    () => ({ w: () => editor.current?.focus(), "?": () => setShown("card") }),
    [],
  );
  useShortcuts(toText);
  const [open, setOpen] = useState<Open | null>(null);
  const [pointed, setPointed] = useState<Shows | null>(null);
  const [aimed] = useDebouncedValue(pointed, 300);
  const pointing = useMemo(() => ({ point: setPointed }), []);
  const [adding, setAdding] = useState<string | null>(null);
  const [shown, setShown] = useState<"card" | "earlier" | null>(null);
  const [keeping, setKeeping] = useState<{ title: string; text: string } | null>(null);
  const typed = (next: string) => {
    setText(next);
    saving.type(next);
  };
  const textAt = (line: number) => editor.current?.lineText(line) ?? "";
  const add = (one: Schemas["Finding"]) =>
    setAdding(textAt(one.line).slice(one.column - 1, one.end_column - 1));
  const rewrite = useWrite(
    (body: Schemas["BoardChange"]) => ask(api.POST("/api/boards/change", { body })),
    {
      onDone: (done) => {
        editor.current?.replace(done.text);
        setOpen(null);
      },
    },
  );
  const change = (
    line: number,
    change: Schemas["BoardChange"]["change"],
    more: Partial<Schemas["BoardChange"]> = {},
  ) =>
    rewrite.mutate({
      text: editor.current?.text() ?? "",
      change,
      line,
      by: more.by ?? 1,
      added: more.added ?? "",
      station: more.station ?? false,
    });
  const insertHere = (line: number, title: string, side: "before" | "after") => (
    <Insert
      templates={words.data?.templates ?? []}
      kept={kept.data ?? NONE}
      here={`Insert a piece ${side} ${title}`}
      onChoose={(piece) => editor.current?.insert(piece, line)}
      onEarlier={() => {
        editor.current?.goTo(line);
        setShown("earlier");
      }}
    />
  );
  const conflict = saving.status.state === "conflict" ? saving.status.newer : null;

  return (
    <div className={styles.write}>
      {open?.what === "line" && (
        <LineForm
          text={open.text}
          words={{
            tiers: gym.tiers,
            movements: words.data?.movements.map((movement) => movement.name) ?? [],
            loads: words.data?.loads ?? [],
          }}
          onClose={() => setOpen(null)}
          onMove={(by) => change(open.line, "move line", { by })}
          onRemove={() => change(open.line, "remove line")}
          onDone={(line, station) => {
            if (open.text === null) {
              change(open.line, "add line", { added: line, station });
            } else {
              editor.current?.setLine(open.line, line);
              setOpen(null);
            }
          }}
        />
      )}
      {open?.what === "heading" && (
        <HeadingForm
          text={open.text}
          roles={words.data?.roles ?? []}
          onClose={() => setOpen(null)}
          onDone={(line) => {
            editor.current?.setLine(open.line, line);
            setOpen(null);
          }}
        />
      )}
      {keeping && (
        <SaveTemplate {...keeping} kept={kept.data ?? NONE} onClose={() => setKeeping(null)} />
      )}
      {shown === "card" && words.data && (
        <Card
          card={words.data.card}
          onPut={(one) =>
            one.line ? editor.current?.insertLine(one.text) : editor.current?.insert(one.text)
          }
          onClose={() => setShown(null)}
        />
      )}
      {shown === "earlier" && (
        <Modal opened onClose={() => setShown(null)} size="xl" title="From an earlier day">
          <Earlier
            date={date}
            programmes={gym.programmes.map((one) => one.name)}
            onDay={(board) => {
              editor.current?.replace(board);
              setShown(null);
            }}
            onPiece={(piece) => {
              editor.current?.insert(piece);
              setShown(null);
            }}
          />
        </Modal>
      )}
      {adding !== null && (
        <MovementForm
          initial={{ name: adding }}
          onClose={() => setAdding(null)}
          onDone={() => setAdding(null)}
        />
      )}
      <section className={styles.text} aria-label="Board text and problems">
        {conflict && (
          <div className={conflictStyles.conflict} role="alert">
            <b>
              {conflict.saved_by ?? "Someone"} saved this day at{" "}
              {conflict.saved_at && clockTime(conflict.saved_at)} while you were writing.
            </b>{" "}
            Your text is below; this is theirs:
            <pre>{conflict.text}</pre>
            <div className={conflictStyles.choice}>
              <Button
                onClick={() => {
                  saving.settle(conflict);
                  saving.type(text);
                }}
              >
                Save mine
              </Button>
              <Button
                variant="default"
                onClick={() => {
                  saving.settle(conflict);
                  editor.current?.replace(conflict.text);
                }}
              >
                Take theirs (undo brings mine back)
              </Button>
            </div>
          </div>
        )}
        {saving.status.state === "asked" && (
          <ScoreDestination asked={saving.status.asked} onAnswer={saving.answer} />
        )}
        {words.data ? (
          <Editor
            initial={saving.first}
            words={words.data}
            kept={kept.data ?? NONE}
            findings={findings}
            onChange={typed}
            onAdd={add}
            handle={editor}
          />
        ) : (
          <Waiting what="Opening the board" />
        )}
        <Findings list={findings.list} editor={editor} onAdd={add} />
        <div className={styles.bar}>
          <Insert
            templates={words.data?.templates ?? []}
            kept={kept.data ?? NONE}
            onChoose={(piece) => editor.current?.insert(piece)}
            onEarlier={() => setShown("earlier")}
          />
          <WarmUp
            text={text}
            roles={read.data?.view.pieces.map((piece) => piece.role) ?? []}
            onText={(board) => editor.current?.replace(board)}
          />
          <Button size="compact-sm" variant="default" onClick={() => setShown("card")}>
            Notation
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => editor.current?.undo()}>
            Undo
          </Button>
          <Files
            date={date}
            tier={tier}
            track={track}
            onOpen={(board) => editor.current?.replace(board)}
          />
          <Status status={saving.status} />
          {saved.version > 0 && (
            <Publish date={date} published={saved.published} version={saved.version} />
          )}
          {saving.status.state === "restored" && (
            <>
              <Button size="compact-sm" onClick={() => saving.save()}>
                Save
              </Button>
              <Button
                size="compact-sm"
                variant="default"
                onClick={() => editor.current?.renew(saving.discard())}
              >
                Discard
              </Button>
            </>
          )}
        </div>
      </section>
      <section className={styles.board} aria-label="The board as athletes see it">
        {text.trim() && (
          <div className={styles.pick}>
            <SegmentedControl
              aria-label="Tier"
              value={tier}
              onChange={setTier}
              data={gym.tiers.map((label, value) => ({ label, value: String(value) }))}
            />
            <Select
              aria-label="Track"
              placeholder={gym.tracks.length > 2 ? "All tracks" : "Both tracks"}
              clearable
              value={track}
              onChange={setTrack}
              data={gym.tracks.map((label, value) => ({ label, value: String(value) }))}
              w={150}
            />
          </div>
        )}
        {!text.trim() && (
          <StartOptions
            date={date}
            programmes={gym.programmes.map((one) => one.name)}
            words={words.data}
            kept={kept.data ?? NONE}
            onText={(board) => {
              editor.current?.replace(board);
              editor.current?.focus();
            }}
            onPiece={(piece) => editor.current?.insert(piece)}
          />
        )}
        {read.data && text.trim() && (
          <>
            <h2 className={styles.boardTitle}>{read.data.view.title}</h2>
            <ShowingContext value={pointing}>
              {insertHere(1, read.data.view.pieces[0]?.title ?? "", "before")}
              {read.data.view.pieces.map((piece, index) => (
                // Its key changes with the first save; a menu open on it then stays open.
                <Fragment key={outline?.pieces[index]?.line ?? piece.key}>
                  <Piece
                    piece={piece}
                    arithmetic={outline?.pieces[index]?.arithmetic}
                    selected={piece.key === selected}
                    onOpenLine={(line) => setOpen({ what: "line", line, text: textAt(line) })}
                    tools={
                      <PieceTools
                        title={piece.title}
                        rests={piece.role === "rest"}
                        onHeading={() =>
                          setOpen({ what: "heading", line: piece.line, text: textAt(piece.line) })
                        }
                        onAdd={() => setOpen({ what: "line", line: piece.line, text: null })}
                        onMove={(by) => change(piece.line, "move piece", { by })}
                        onRemove={() => change(piece.line, "remove piece")}
                        onKeep={() =>
                          setKeeping({
                            title: piece.title,
                            text:
                              editor.current?.pieceText(
                                piece.line,
                                outline?.pieces[index + 1]?.line ?? null,
                              ) ?? "",
                          })
                        }
                      />
                    }
                  >
                    {runs.has(piece.key) && (
                      <TestrunBand
                        title={piece.title}
                        piece={runs.get(piece.key) as Schemas["PiecePrediction"]}
                        tier={Number(tier)}
                      />
                    )}
                  </Piece>
                  {insertHere(piece.line, piece.title, "after")}
                </Fragment>
              ))}
            </ShowingContext>
            {aimed && (
              <Suspense>
                <LinePreview shows={aimed} />
              </Suspense>
            )}
          </>
        )}
      </section>
    </div>
  );
}
