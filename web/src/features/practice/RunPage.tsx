import { t as say } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { askPractice } from "@/api/practiceQueries";
import { ask } from "@/api/queries";
import { NotYet } from "@/ui/NotYet";
import { Banner } from "./Banner";
import { LaceBench } from "./LaceBench";
import { MarksTold } from "./MarksTold";
import { RunHead } from "./RunHead";
import { StandBench } from "./StandBench";

/** One practice wheel, from the stand to its marks. */
export default function RunPage() {
  const { id: runId = "" } = useParams();
  const run = useQuery(askPractice.run(runId));
  const session = useQuery(ask.session());
  if (!run.data || !session.data) return <NotYet of={[run, session]} what={say`the practice wheel`} />;
  const { marks } = run.data.now;
  return (
    <main className="flex flex-1 flex-col">
      <Banner />
      <RunHead run={run.data} />
      {marks ? (
        <div className="p-4">
          <MarksTold run={run.data} marks={marks} />
        </div>
      ) : run.data.mode === "lace" ? (
        <LaceBench key={run.data.id} run={run.data} />
      ) : (
        <StandBench key={run.data.id} run={run.data} unit={session.data.force_unit ?? "N"} />
      )}
    </main>
  );
}
