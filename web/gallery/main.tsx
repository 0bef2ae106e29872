import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";

// `?lang=de` shows everything in German: the language has to be set before the first module asks for it.
document.documentElement.lang = new URLSearchParams(location.search).get("lang") ?? "en";
const { speak } = await import("../src/app/speak");
await speak();
const { draw } = await import("./draw");
draw();
