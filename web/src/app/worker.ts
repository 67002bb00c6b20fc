// The service worker keeps the program on this device: its screens open without network.
import { at } from "../api/base";

export function registerWorker(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return;
  window.addEventListener("load", () => {
    // Where a browser or a setting forbids it, the program works with the network alone.
    navigator.serviceWorker.register(at("/sw.js")).catch(() => undefined);
  });
}
