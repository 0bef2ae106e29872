import { Trans } from "@lingui/react/macro";
import { Soft } from "../ui/layout";

/** What ± means, at its first place on a page: there is one meaning everywhere. */
export const PlusMinus = () => (
  <Soft>
    <Trans>± is one standard uncertainty: in about two of three such cases the true value lies within it.</Trans>
  </Soft>
);
