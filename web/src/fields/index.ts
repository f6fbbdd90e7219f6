/** The fields of a sheet. */
export { ChoiceField } from "./ChoiceField.tsx";
export { EntryField } from "./EntryField.tsx";
export { TextField } from "./TextField.tsx";
export { YesNoField } from "./YesNoField.tsx";
