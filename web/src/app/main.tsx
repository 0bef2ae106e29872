import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import { speak } from "./speak";

// Sentences first: modules of the application hold some in constants.
await speak();
const { draw } = await import("./draw");
draw();
