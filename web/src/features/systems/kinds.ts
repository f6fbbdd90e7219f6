import forms from "../../api/forms.gen.json";

/** Kinds of system by their id, in the core's words. */
export const KINDS: Record<string, string> = forms.sheets.identify.kind.options;
