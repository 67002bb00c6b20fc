// Live updates: one event stream a page, which finds its way back by itself.
import { useEffect, useRef, useState } from "react";

type Handlers = Record<string, (data: Record<string, unknown>) => void>;

/** Listen to a stream of server-sent events; true while it is connected. */
export function useLive(url: string, handlers: Handlers): boolean {
  const [connected, setConnected] = useState(false);
  const current = useRef(handlers);
  current.current = handlers;
  const names = Object.keys(handlers).join(" ");
  useEffect(() => {
    let source: EventSource | undefined;
    let retry: number | undefined;
    let closed = false;
    const open = () => {
      source = new EventSource(url);
      source.onopen = () => setConnected(true);
      source.onerror = () => {
        setConnected(false);
        // A stream that was refused is closed for good: knock again.
        if (source?.readyState === EventSource.CLOSED && !closed) {
          retry = window.setTimeout(open, 1500);
        }
      };
      for (const name of names.split(" ")) {
        source.addEventListener(name, (event) =>
          current.current[name]?.(JSON.parse((event as MessageEvent).data)),
        );
      }
    };
    open();
    return () => {
      closed = true;
      window.clearTimeout(retry);
      source?.close();
    };
  }, [url, names]);
  return connected;
}
