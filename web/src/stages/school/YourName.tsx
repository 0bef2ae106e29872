import { t } from "@lingui/core/macro";
import { TextField } from "../../ui/fields";

/** The name of an account that is being made. */
export const YourName = ({
  value,
  change,
  focus = false,
}: {
  value: string;
  change: (text: string) => void;
  focus?: boolean;
}) => (
  <TextField
    label={t`Your name here`}
    hint={t`You sign in with it, and colleagues see it.`}
    value={value}
    onChange={change}
    autoComplete="username"
    maxLength={150}
    isRequired
    autoFocus={focus}
  />
);
