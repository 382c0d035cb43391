/** Why a course did not do what it should: causes with what speaks for and against each, and what to do next. */
import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { whyFailedQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useMay } from "@/features/session/use-session";
import { Details } from "@/ui/details";
import { LinkButton } from "@/ui/link";
import { CAUSE, CAUSE_TEST, CAUSE_WEIGHT, NEXT_AFTER_FAILURE } from "@/wording/words";

type Course = Schemas["CourseView"];

export function WhyFailed({ course }: { course: Course }) {
  const query = useQuery(whyFailedQuery(course.id));
  const mayRecord = useMay("record");
  if (!query.data) return null;
  const { causes, next_step: next } = query.data;
  const weighed = causes.filter((one) => one.weight !== "unlikely");
  const others = causes.filter((one) => !weighed.includes(one));
  return (
    <section aria-labelledby="why-failed" className="border-t-2 border-ink pt-3">
      <h2 id="why-failed" className="text-xl">
        {course.verdict?.word === "failed" ? "Why it failed" : "Why not all of it"}
      </h2>
      {causes.every((one) => one.weight !== "likely" && one.weight !== "possible") && (
        <p className="mt-1">The record does not say why.</p>
      )}
      <ol>
        {weighed.map((one) => (
          <CauseRow key={one.code} cause={one} />
        ))}
      </ol>
      {others.length > 0 && (
        <Details title={weighed.length > 0 ? "What speaks against the other causes" : "What speaks against each cause"}>
          <ol>
            {others.map((one) => (
              <CauseRow key={one.code} cause={one} />
            ))}
          </ol>
        </Details>
      )}
      <p className="mt-3">
        <strong>Next:</strong> {NEXT_AFTER_FAILURE[next]}
      </p>
      {mayRecord && (
        <div className="mt-3 flex flex-wrap gap-2">
          {next !== "count_again" && (
            <LinkButton to="/treat" search={{ apiary: course.apiary_id, colonies: [course.colony_id] }} variant="main">
              Choose the next treatment
            </LinkButton>
          )}
          <LinkButton
            to="/bench"
            search={{ apiary: course.apiary_id, colonies: [course.colony_id] }}
            variant={next === "count_again" ? "main" : "plain"}>
            Count again
          </LinkButton>
        </div>
      )}
    </section>
  );
}

function CauseRow({ cause }: { cause: Schemas["Cause"] }) {
  const say = useSentence();
  const strong = cause.weight === "likely";
  return (
    <li className="border-b border-line py-2">
      <p>
        <strong className={clsx(strong && "text-lg")}>{CAUSE[cause.code]}</strong>{" "}
        <span className="text-ink-2">{CAUSE_WEIGHT[cause.weight]}</span>
      </p>
      {cause.speaks_for.map((one) => (
        <p key={one.code} className="pl-4 -indent-4">
          <span aria-label="for">+ </span>
          {say(one)}
        </p>
      ))}
      {cause.against.map((one) => (
        <p key={one.code} className="pl-4 -indent-4 text-ink-2">
          <span aria-label="against">− </span>
          {say(one)}
        </p>
      ))}
      {cause.weight !== "unlikely" && <p className="text-sm text-ink-2">To tell: {CAUSE_TEST[cause.code]}</p>}
    </li>
  );
}
