/** What to do with a colony next; the core decides, this words it. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { adviceOf } from "@/features/sampling/meaning";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { perOf, courseStep } from "@/wording/words";

type View = Schemas["ColonyView"];

export function NextAct({ view }: { view: View }) {
  const open = view.courses.find((one) => one.is_open && one.next_step !== null);
  const { colony, advice } = view;
  switch (advice.act) {
    case "none":
      return <div />;
    case "step":
      return <NextStep view={view} open={open} />;
    case "second_sample": {
      const words = view.latest?.judgement
        ? adviceOf(view.latest.judgement, view.today)
        : { title: "Wash a second jar.", text: "" };
      const last = view.latest?.last_start
        ? ` The last sensible start of a treatment is ${shortDay(view.latest.last_start.on, view.today)}.`
        : "";
      return <Advice title={words.title} text={words.text + last} />;
    }
    case "treat":
    case "flag":
    case "report": {
      if (advice.act === "report")
        return (
          <Advice
            pressing
            title="Report it."
            text="A mite was found. Keep the mites and a photo; your authority says what follows."
          />
        );
      const overdue = colony.overdue_from ? `; overdue since ${shortDay(colony.overdue_from, view.today)}` : "";
      return (
        <Advice
          pressing={colony.level === "urgent" || colony.overdue_from !== null}
          title={ANSWER[advice.act]}
          text={`At or over ${colony.act_at} ${perOf(colony.scheme)}${overdue}.`}
        />
      );
    }
    case "count":
      return (
        <Advice
          title="Count now."
          text={colony.counted_on ? "The current level is not known any more." : "It was never counted."}
        />
      );
    case "count_by":
      return (
        <Advice
          title={`Count again by ${shortDay(advice.by ?? view.today, view.today)}.`}
          text="From the latest count and the season's growth."
        />
      );
  }
}

const ANSWER = { treat: "Treat this colony.", flag: "Flag it to the programme lead." } as const;

function Advice({ title, text, pressing = false }: { title: string; text: string; pressing?: boolean }) {
  return (
    <div>
      <p className={clsx("font-head text-2xl font-semibold", pressing && "text-act")}>{title}</p>
      <p className="mt-1 text-ink-2">{text}</p>
    </div>
  );
}

function NextStep({ view, open }: { view: View; open: Schemas["CourseView"] | undefined }) {
  const step = open?.steps.find((one) => one.name === open.next_step);
  if (!open || !step) return <div />;
  return (
    <div>
      <p className="font-head text-2xl font-semibold">
        {courseStep(step.name, open)}: {shortDay(step.ideal, view.today)}
      </p>
      <p className="mt-1 text-ink-2">
        {open.option.name}.{" "}
        <TextLink to="/courses/$id" params={{ id: open.id }}>
          Open the course
        </TextLink>
      </p>
    </div>
  );
}
