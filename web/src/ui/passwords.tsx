import { t } from "@lingui/core/macro";
import { TextField } from "./fields";

type Props = { value: string; change: (text: string) => void; label?: string };

/** The password so far, typed once more before something about signing in is changed. */
export const OwnPassword = ({ value, change, label = t`Your password` }: Props) => (
  <TextField
    label={label}
    type="password"
    value={value}
    onChange={change}
    autoComplete="current-password"
    maxLength={200}
    isRequired
  />
);

/** A password to come, with what makes a good one. */
export const NewPassword = ({ value, change, label = t`Password` }: Props) => (
  <TextField
    label={label}
    hint={t`Ten letters or more, not a common one. Three unlike words are good.`}
    type="password"
    value={value}
    onChange={change}
    autoComplete="new-password"
    maxLength={200}
    isRequired
  />
);
