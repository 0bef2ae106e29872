import { transform } from "@lingui/native-tools";

/** The front end's own modules with their sentences as they stand in the code. */
const sentences = {
  name: "sentences",
  async transform(code, id) {
    if (!/\.tsx?$/.test(id) || !code.includes("/macro")) return null;
    const done = await transform(code, id, { macro: { descriptorFields: "all" } });
    return { code: done.code, map: done.map ?? null };
  },
};

export default { platform: "node", output: { format: "esm", codeSplitting: false }, plugins: [sentences] };
