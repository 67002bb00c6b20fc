// Live updates: one event stream a page, shared by all that listen, which finds its way back.
import { useEffect, useRef, useState } from "react";

type Said = Record<string, unknown>;
type Handlers = Record<string, (data: Said) => void>;
type Listener = { hear: (name: string, data: Said) => void; connect: (on: boolean) => void };

const KNOCK_MS = 1500;

/** A stream of server-sent events, open as long as anybody listens. */
class Stream {
  private readonly listeners = new Set<Listener>();
  private readonly names = new Set<string>();
  private source: EventSource | undefined;
  private retry: number | undefined;
  private on = false;

  constructor(private readonly url: string) {
    this.open();
  }

  add(listener: Listener, names: readonly string[]): void {
    this.listeners.add(listener);
    listener.connect(this.on);
    for (const name of names) {
      if (this.names.has(name)) continue;
      this.names.add(name);
      this.listenTo(name);
    }
  }

  /** Whether somebody still listens. */
  remove(listener: Listener): boolean {
    this.listeners.delete(listener);
    return this.listeners.size > 0;
  }

  close(): void {
    window.clearTimeout(this.retry);
    this.source?.close();
    this.source = undefined;
  }

  private open(): void {
    const source = new EventSource(this.url);
    this.source = source;
    source.onopen = () => this.tell(true);
    source.onerror = () => {
      this.tell(false);
      // A stream that was refused is closed for good: knock again.
      if (source.readyState === EventSource.CLOSED && this.source === source) {
        this.retry = window.setTimeout(() => this.open(), KNOCK_MS);
      }
    };
    for (const name of this.names) this.listenTo(name);
  }

  private listenTo(name: string): void {
    this.source?.addEventListener(name, (event) => {
      const data = JSON.parse((event as MessageEvent).data) as Said;
      for (const one of [...this.listeners]) one.hear(name, data);
    });
  }

  private tell(on: boolean): void {
    this.on = on;
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
