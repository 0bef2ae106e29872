import { TextField } from "../../ui/fields";

/** A password to come, with what makes a good one. */
export function NewPassword({ value, change }: { value: string; change: (text: string) => void }) {
  return (
    <TextField
      label="Password"
      hint="Ten letters or more, not a common one. Three unlike words are good."
      type="password"
      value={value}
      onChange={change}
      autoComplete="new-password"
      maxLength={200}
      isRequired
    />
  );
}
