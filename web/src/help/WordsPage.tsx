import { Trans } from "@lingui/react/macro";
import { glossary } from "./glossary";
import { Explained } from "./WordHelp";

/** The glossary: every word of the job with its drawing. */
export default function WordsPage() {
  return (
    <main className="p-4">
      <h1>
        <Trans>Words of the job</Trans>
      </h1>
      <dl className="mt-3 grid grid-cols-1 gap-x-8 gap-y-5 xl:grid-cols-2">
        {glossary().map((word) => (
          <div key={word.key} id={word.key}>
            <dt className="mb-1 text-lg font-bold">{word.word}</dt>
            <dd className="m-0">
              <Explained word={word} />
            </dd>
          </div>
        ))}
      </dl>
    </main>
  );
}
