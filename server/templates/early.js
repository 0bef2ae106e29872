// Until the application is here: join without leaving the page, so that what is on its way is not fetched again.
(() => {
  const GIVE_UP_MS = 30_000;
  const form = document.querySelector("#first form");
  if (!form) return;
  const { bench, away, soon } = form.dataset;
  let failed = false, joined = false;
  const lost = () => {
    failed = true; // the application did not come: only a new page brings it
    if (joined) location.assign("/bench");
  };
  document.querySelector("script[type=module]").addEventListener("error", lost);
  addEventListener("unhandledrejection", lost);
  const say = (text) => {
    let line = form.querySelector("[role=alert]");
    if (!line) {
      line = document.createElement("p");
      line.setAttribute("role", "alert");
      form.lastElementChild.before(line);
    }
    line.textContent = text;
  };
  const ahead = (path) => {
    const link = document.createElement("link");
    Object.assign(link, { rel: "modulepreload", href: path });
    document.head.append(link);
  };
  const join = async () => {
    const { code, pin, csrfmiddlewaretoken } = Object.fromEntries(new FormData(form));
    const headers = { "Content-Type": "application/json", "X-CSRFToken": csrfmiddlewaretoken };
    const answer = await fetch("/api/join", { method: "POST", headers, body: JSON.stringify({ code, pin }) });
    if (!answer.ok) return say((await answer.json()).message);
    joined = true;
    document.cookie = "pipette_joined=1; path=/; max-age=60; samesite=lax";
    if (failed || !form.isConnected) return location.assign("/bench");
    history.replaceState(null, "", "/bench");
    const moment = document.createElement("p");
    moment.setAttribute("role", "status");
    moment.textContent = soon;
    form.closest("main").replaceChildren(moment);
    bench.split(" ").forEach(ahead);
    setTimeout(() => moment.isConnected && lost(), GIVE_UP_MS);
  };
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    const button = form.querySelector("button");
    if (button.disabled) return;
    button.disabled = true;
    join().catch(() => say(away)).finally(() => (button.disabled = false));
  });
})();
