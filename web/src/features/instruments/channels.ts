/** What may come over a channel, generated from the core. */
import forms from "../../api/forms.gen.json";

export const CHANNELS = forms.channels as Record<string, { label: string; quantity: string }>;
