import { POST } from "./client";
import { queries } from "./queries";
import { forgetOffline } from "./offline";

/** Set from the moment a group leaves until the server has heard of it: meanwhile nothing of the bench is shown here. */
const LEFT = "pipette:left";

export function hasLeft(): boolean {
  try {
    return localStorage.getItem(LEFT) !== null;
  } catch {
    return false; // without storage nothing is kept here either
  }
}

function note(left: boolean) {
  try {
    if (left) localStorage.setItem(LEFT, "1");
    else localStorage.removeItem(LEFT);
  } catch {
    // see above
  }
}

/** Set by the server for who joined before any script was here; not for long, and read once. */
const JOINED = "pipette_joined";

function noteJoined() {
  if (!document.cookie.includes(`${JOINED}=`)) return;
  document.cookie = `${JOINED}=; path=/; max-age=0`;
  hasJoined();
}

/** Another group has joined on this device, which ends the session of the one before on the server too. */
export const hasJoined = () => note(false);

/** A group leaves this device, with or without network: what pages and caches hold of it goes; what is unsent stays. */
export async function leave(): Promise<void> {
  note(true);
  queries.clear();
  await forgetOffline();
  await tellLeft();
}

/** End the session on the server, if it has not heard of it yet. */
export async function tellLeft(): Promise<void> {
  if (!hasLeft()) return;
  try {
    const { response } = await POST("/api/leave");
    if (response.ok) note(false);
  } catch {
    // no network: it is told when the network is back, or when the next group joins
  }
}

const AGAIN_MS = 5000;

/** Go on telling the server, and see to it that no other tab and no page out of the browser's memory shows the bench. */
export function watchLeaving(): void {
  noteJoined();
  void tellLeft();
  setInterval(() => void tellLeft(), AGAIN_MS);
  window.addEventListener("online", () => void tellLeft());
  window.addEventListener("storage", ({ key, newValue }) => {
    if (key === LEFT && newValue !== null && location.pathname.startsWith("/bench")) location.replace("/join");
  });
  window.addEventListener("pageshow", ({ persisted }) => {
    if (persisted) location.reload();
  });
}
