// Live updates: one event stream a browser, shared by all its pages, which finds its way back.
//
// A browser opens six connections to a server at most (HTTP/1.1), and a stream keeps one. The page
// that holds a lock reads the stream and passes on what it hears; the lock goes to another page when
// that one is closed, or has been hidden for a while.

import { useEffect, useRef, useState } from "react";
import { at } from "./base";
import { guardOwner } from "./client";

type Said = Record<string, unknown>;
type Handlers = Record<string, (data: Said) => void>;
type Listener = { hear: (name: string, data: Said) => void; connect: (on: boolean) => void };
/** What pages tell each other; `to` names the one page it is for. */
type Note =
  | { kind: "event"; name: string; data: Said; to?: string }
  | { kind: "connected"; on: boolean; to?: string }
  | { kind: "names"; names: string[]; from: string }
  | { kind: "hello" };

const KNOCK_MS = 1500;
/** How long a hidden page goes on reading the stream: browsers stop its work soon after. */
const HIDDEN_MS = 60_000;
/** The message that holds all there is: a page that joins is given the last one. */
const WHOLE = "wall";

/** A stream of server-sent events, open as long as anybody listens. */
class Stream {
  private readonly listeners = new Set<Listener>();
  private readonly names = new Set<string>();
  private readonly heard = new Set<string>();
  private readonly id = Math.random().toString(36).slice(2);
  private readonly channel: BroadcastChannel | undefined;
  private readonly lock: string;
  private source: EventSource | undefined;
  private retry: number | undefined;
  private hiding: number | undefined;
  private waiting: AbortController | undefined;
  private release: (() => void) | undefined;
  private whole: Said | undefined;
  private on = false;
  private closed = false;

  constructor(private readonly url: string) {
    // A page of another person does not listen in.
    this.lock = `pine-live ${guardOwner() ?? ""} ${url}`;
    if (!navigator.locks || typeof BroadcastChannel === "undefined") {
      this.open();
      return;
    }
    this.channel = new BroadcastChannel(this.lock);
    this.channel.onmessage = (event) => this.told(event.data as Note);
    document.addEventListener("visibilitychange", this.seen);
    this.stand();
  }

  add(listener: Listener, names: readonly string[]): void {
    this.listeners.add(listener);
    listener.connect(this.on);
    for (const name of names) this.names.add(name);
    this.listenTo(names);
    this.say({ kind: "names", names: [...names], from: this.id });
  }

  /** Whether somebody still listens. */
  remove(listener: Listener): boolean {
    this.listeners.delete(listener);
    return this.listeners.size > 0;
  }

  close(): void {
    this.closed = true;
    document.removeEventListener("visibilitychange", this.seen);
    window.clearTimeout(this.hiding);
    this.step();
    this.channel?.close();
    this.shut();
  }

  /** Wait for the turn to read the stream for all pages. */
  private stand(): void {
    if (this.waiting) return;
    const waiting = new AbortController();
    this.waiting = waiting;
    navigator.locks
      .request(this.lock, { signal: waiting.signal }, () => {
        // Its turn came in the moment it was closed.
        if (this.closed) return;
        this.open();
        this.say({ kind: "hello" });
        return new Promise<void>((done) => {
          this.release = done;
        });
      })
      .catch(() => undefined);
  }

  /** Let another page read the stream. */
  private step(): void {
    this.waiting?.abort();
    this.waiting = undefined;
    if (!this.release) return;
    this.release();
    this.release = undefined;
    this.shut();
  }

  private readonly seen = (): void => {
    window.clearTimeout(this.hiding);
    if (document.visibilityState === "hidden") {
      this.hiding = window.setTimeout(() => this.step(), HIDDEN_MS);
    } else {
      this.stand();
    }
  };

  private say(note: Note): void {
    if (!this.closed) this.channel?.postMessage(note);
  }

  private told(note: Note): void {
    if ("to" in note && note.to !== undefined && note.to !== this.id) return;
    switch (note.kind) {
      case "event":
        this.hear(note.name, note.data);
        break;
      case "connected":
        this.tell(note.on);
        break;
      case "hello":
        this.say({ kind: "names", names: [...this.names], from: this.id });
        break;
      case "names": {
        if (!this.source) return;
        this.listenTo(note.names);
        // Who joins is told how things stand: it may have missed what was said before.
        this.say({ kind: "connected", on: this.on, to: note.from });
        const again = this.whole ?? { what: "again" };
        const name = this.whole ? WHOLE : "again";
        if (this.on) this.say({ kind: "event", name, data: again, to: note.from });
      }
    }
  }

  private shut(): void {
    window.clearTimeout(this.retry);
    this.source?.close();
    this.source = undefined;
  }

  private open(): void {
    const source = new EventSource(at(this.url));
    this.source = source;
    source.onopen = () => this.tell(true);
    source.onerror = () => {
      this.tell(false);
      // A stream that was refused is closed for good: knock again.
      if (source.readyState === EventSource.CLOSED && this.source === source) {
        this.retry = window.setTimeout(() => this.open(), KNOCK_MS);
      }
    };
    this.heard.clear();
    this.listenTo([...this.names]);
  }

  private listenTo(names: readonly string[]): void {
    for (const name of names) {
      if (!this.source || this.heard.has(name)) continue;
      this.heard.add(name);
      this.source.addEventListener(name, (event) => {
        const data = JSON.parse((event as MessageEvent).data) as Said;
        if (name === WHOLE) this.whole = data;
        this.say({ kind: "event", name, data });
        this.hear(name, data);
      });
    }
  }

  private hear(name: string, data: Said): void {
    for (const one of [...this.listeners]) one.hear(name, data);
  }

  private tell(on: boolean): void {
    this.on = on;
    if (this.source) this.say({ kind: "connected", on });
    for (const one of this.listeners) one.connect(on);
  }
}

const streams = new Map<string, Stream>();

/** Listen to a stream of server-sent events; true while it is connected. */
export function useLive(url: string, handlers: Handlers): boolean {
  const [connected, setConnected] = useState(false);
  const current = useRef(handlers);
  current.current = handlers;
  const names = Object.keys(handlers).join(" ");
  useEffect(() => {
    const stream = streams.get(url) ?? new Stream(url);
    streams.set(url, stream);
    const listener: Listener = {
      hear: (name, data) => current.current[name]?.(data),
      connect: setConnected,
    };
    stream.add(listener, names.split(" "));
    return () => {
      if (stream.remove(listener)) return;
      stream.close();
      streams.delete(url);
    };
  }, [url, names]);
  return connected;
}
