/** Whether this browser can open the bench without the network: only on https or on the machine itself. */
export const canReopen = (): boolean => "serviceWorker" in navigator;

/** Have what this page is made of kept, so that the bench can be opened again while the network is away. */
export async function keepForOffline(): Promise<void> {
  if (!canReopen()) return;
  try {
    await navigator.serviceWorker.register("/sw.js", { scope: "/" });
    const worker = (await navigator.serviceWorker.ready).active;
    const loaded = performance.getEntriesByType("resource").map(({ name }) => new URL(name));
    const urls = loaded.filter((url) => url.origin === location.origin && url.pathname.startsWith("/static/"));
    worker?.postMessage({ keep: [...new Set(urls.map((url) => url.pathname))] });
  } catch {
    // Private windows may refuse; then a reload needs the network, and readings are still safe in their own store.
  }
}

/** A group leaves this device: forget what it has seen. */
export async function forgetOffline(): Promise<void> {
  if (canReopen()) (await navigator.serviceWorker.getRegistration("/"))?.active?.postMessage({ forget: true });
}

/** Keep the bench as its stream has brought it, so that it is the latest that opens without network. */
export function keepTold(json: string): void {
  if (canReopen()) navigator.serviceWorker.controller?.postMessage({ told: json });
}
