import { plural, t } from "@lingui/core/macro";
import { useChain } from "../../api/chain";
import type { Schemas } from "../../api/client";
import { ChainStems } from "../../charts/ChainStems";
import { Slides } from "../../ui/Slides";
import { Waiting } from "../../ui/Waiting";
import { packWord } from "../../ui/packWords";

type Chain = Schemas["ChainOut"];

/** What is asked of the class now, or what came out. */
export function titleOf(chain: Chain): string {
  if (chain.lit_with !== null) return t`The ${chain.load_name} runs with ${chain.lit_with}`;
  if (chain.voting) return t`The ${chain.load_name}: how many cells will it take?`;
  const joined = plural(chain.links.length, { one: "# cell", other: "# cells" });
  return chain.seen === ""
    ? t`${joined} in the chain: the ${chain.load_name} is not tried yet`
    : t`${joined} in the chain: the ${chain.load_name}, ${packWord(chain.seen)}`;
}

function saysOf(chain: Chain): string {
  if (chain.lit_with !== null && chain.nearest.length > 0) return t`Nearest vote: ${chain.nearest.join(", ")}.`;
  const votes = plural(chain.voted, {
    one: "# group has voted, on the page of packs.",
    other: "# groups have voted, on the page of packs.",
  });
  if (chain.covered)
    return t`${votes} What is foretold comes when all have, or when the first ${chain.short} cell is joined.`;
  if (chain.voting) return t`${votes} Green line: what so many ${chain.short} cells of yours come to. Violet: votes.`;
  return t`Green line: foretold from your own cells. Solid: what the last cell added, and the whole with it. Violet: votes.`;
}

/** The class's chain on the wall: voted on, foretold, and done. */
export function ChainProjector({ id }: { id: string }) {
  const { data, error } = useChain(id);
  if (!data) return <Waiting title={t`The chain`} error={error} />;
  const { chain } = data;
  const slides = chain
    ? [{ key: chain.id, title: titleOf(chain), says: saysOf(chain), picture: <ChainStems chain={chain} /> }]
    : [];
  return <Slides name={t`The class’s chain`} back={`/labs/${id}/power`} slides={slides} />;
}
