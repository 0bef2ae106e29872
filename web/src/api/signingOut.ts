import { Problem } from "./client";
import { queries } from "./queries";

/** Changes whenever a teacher signs out in one of this browser's tabs, so that the others hear of it. */
const OUT = "pipette:signed-out";
/** What a group or a device without a name has begun in this tab; everything else of ours that is kept here is a teacher's. */
const NOT_A_TEACHERS = /^pipette:(((choice|cells):)?[0-9a-f]{8}-[0-9a-f-]{27}|answer:|putting:)/;
const TEACHERS_PAGE = /^\/(labs|account|school|years|materials)?(\/|$)/;

/** What this tab holds of a teacher: what was fetched, and what was begun and not sent. */
function forget() {
  queries.clear();
  try {
    for (const key of Object.keys(sessionStorage))
      if (key.startsWith("pipette:") && !NOT_A_TEACHERS.test(key)) sessionStorage.removeItem(key);
  } catch {
    // without storage nothing is kept here either
  }
}

/** Go blank and begin anew: nothing of a teacher is to be seen, also while the network is away. */
function blank() {
  forget();
  document.body.replaceChildren();
  location.reload();
}

/** The teacher has signed out in this tab: every tab of this browser forgets them. */
export function signedOut() {
  try {
    localStorage.setItem(OUT, String(Date.now()));
  } catch {
    // other tabs then see it when they next ask the server
  }
  blank();
}

/** Hear of a teacher's signing out in another tab, and see to it that who is signed out elsewhere is asked to sign in here. */
export function watchSigningOut(): void {
  window.addEventListener("storage", ({ key, newValue }) => {
    if (key === OUT && newValue !== null && TEACHERS_PAGE.test(location.pathname)) blank();
  });
  queries.getQueryCache().subscribe(({ type, query }) => {
    const refused = type === "updated" && query.state.error instanceof Problem && query.state.error.status === 401;
    if (refused && query.queryKey[0] !== "who") void queries.invalidateQueries({ queryKey: ["who"] });
  });
}
