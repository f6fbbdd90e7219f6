import { useState } from "react";

/** A link that lets somebody choose a password: shown once, to be handed over, mailed too where there is an address. */
export function LinkToGive({ name, link, mail }: { name: string; link: string; mail: string }) {
  const [copied, setCopied] = useState(false);
  const whole = `${window.location.origin}${link}`;
  const copy = async () => {
    await navigator.clipboard?.writeText(whole);
    setCopied(true);
  };
  return (
    <div className="note mt-2">
      <p>
        With this link {name} chooses a password. It is good once, for 7 days.
        {mail ? ` It is on its way to ${mail} too.` : " Hand it over yourself: no mail address is kept."}
      </p>
      <p className="mt-1 break-all font-mono text-[14px]">{whole}</p>
      {"clipboard" in navigator && (
        <button type="button" className="btn mt-2" onClick={() => void copy()}>
          {copied ? "Copied" : "Copy it"}
        </button>
      )}
    </div>
  );
}
