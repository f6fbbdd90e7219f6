import type { Question } from "../api/types.ts";
import { fill } from "../format/message.ts";
import { useJob } from "../job/context.ts";

/** An unlikely entry, asked about once. */
export function Asked({ question, path }: { question: Question; path: string }) {
  const { type, system } = useJob();
  const answersPath = `${path.split("/sheet/")[0]}/answers/${question.id.replaceAll("~", "~0").replaceAll("/", "~1")}`;
  return (
    <div className="note mt-1" role="alert">
      <p>{fill(question.message, system)}</p>
      <p className="mt-2 flex flex-wrap gap-2">
        {question.suggestion && (
          <button
            type="button"
            className="btn go"
            onClick={() => type(path, { text: question.suggestion }, { ready: true })}
          >
            Use {question.suggestion}
          </button>
        )}
        <button type="button" className="btn" onClick={() => type(answersPath, "kept", { ready: true })}>
          It is right, keep it
        </button>
      </p>
    </div>
  );
}
