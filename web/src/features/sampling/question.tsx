/** One question at its moment: answered by a tap, never in the way of the tally. */
import { Button } from "@/ui/button";
import { Notice } from "@/ui/page";
import type { Question as Asked, Answer } from "./jars";

const ASK: Record<Asked, { ask: string; answers: [Answer, string][] }> = {
  wet: {
    ask: "Are the bees wet with nectar, or is it raining?",
    answers: [
      ["no", "dry"],
      ["yes", "wet"],
      ["not_looked", "not sure"],
    ],
  },
  queen: {
    ask: "Is the queen seen safe? A wash kills the sample.",
    answers: [
      ["yes", "seen safe"],
      ["no", "not found"],
      ["not_looked", "not looked for"],
    ],
  },
  cleaned: {
    ask: "Was the board clean when it was put in?",
    answers: [
      ["yes", "clean"],
      ["no", "not cleaned"],
      ["not_looked", "not sure"],
    ],
  },
  greased: {
    ask: "Greased, or a sticky sheet?",
    answers: [
      ["yes", "yes"],
      ["no", "bare"],
      ["not_looked", "not sure"],
    ],
  },
  ants: {
    ask: "Ants on the board?",
    answers: [
      ["no", "none"],
      ["yes", "ants"],
      ["not_looked", "not looked"],
    ],
  },
};

type Props = { question: Asked; queenSeenToday: boolean; onAnswer: (given: Answer) => void };

export function Question({ question, queenSeenToday, onAnswer }: Props) {
  const { answers, ...usual } = ASK[question];
  const seen = question === "queen" && queenSeenToday;
  const ask = seen ? "The queen was seen in today’s visit. Is she out of the sample?" : usual.ask;
  return (
    <div role="group" aria-label={ask} className="mt-3 border-l-4 border-course py-1 pl-3">
      <p className="font-semibold">{ask}</p>
      <div className="mt-1 grid grid-cols-3 gap-2 desk:max-w-md">
        {answers.map(([given, says]) => (
          <Button key={given} onClick={() => onAnswer(given)}>
            {says}
          </Button>
        ))}
      </div>
    </div>
  );
}

const WARNINGS: {
  is: (jar: { wet: Answer; queen: Answer; method: string; cleaned: Answer; greased: Answer; ants: Answer }) => boolean;
  says: string;
  act?: boolean;
}[] = [
  {
    is: (jar) => jar.method === "sugar" && jar.wet === "yes",
    says: "Wet bees keep their mites: this will read low. A wash does not mind.",
  },
  {
    is: (jar) => jar.method === "wash" && jar.queen === "no",
    says: "Look over the frame on both sides again before you pour.",
    act: true,
  },
  {
    is: (jar) => jar.method.startsWith("board") && jar.cleaned === "no",
    says: "Old mites may be on it: the count is kept, but not judged.",
  },
  {
    is: (jar) => jar.method.startsWith("board") && jar.ants === "yes",
    says: "Ants carry mites off: the fall is this at the least.",
  },
];

/** What the answers so far mean for the count. */
export function Warnings({ jar }: { jar: Parameters<(typeof WARNINGS)[number]["is"]>[0] }) {
  return WARNINGS.filter((one) => one.is(jar)).map((one) => (
    <div key={one.says} className="mt-3">
      <Notice tone={one.act ? "act" : "watch"}>{one.says}</Notice>
    </div>
  ));
}
