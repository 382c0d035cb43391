/** The one sentence on top of an apiary: what is to be done here, and why; the core decides, this words it. */
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { colonies } from "@/wording/words";

export function headline(view: Schemas["ApiaryView"]): { title: string; text: string; tone: "act" | "plain" } {
  const { advice } = view;
  const named = advice.colonies.map((id) => view.colonies.find((one) => one.id === id)?.label ?? "");
  const names = named.slice(0, 6).join(", ") + (named.length > 6 ? ` and ${named.length - 6} more` : "");
  const share = view.status.counted > 0 ? Math.round((100 * advice.over) / view.status.counted) : 0;
  const inCourse = advice.in_course > 0 ? ` ${colonies(advice.in_course)} in a course already.` : "";
  const all = view.status.scope === "whole_apiary" && view.status.treat.length > advice.over;
  const whole = all ? " The policy treats the whole apiary." : "";
  const over = `${colonies(advice.over)} at or over the threshold: ${share} % of what was counted.${whole}${inCourse}`;
  switch (advice.act) {
    case "treat_all":
      return { title: "Treat this apiary.", text: over, tone: "act" };
    case "treat":
      return { title: `Treat ${names}.`, text: over, tone: "act" };
    case "flag":
      return { title: `Flag ${names} to the programme lead.`, text: over, tone: "act" };
    case "report":
      return {
        title: `Report ${names}.`,
        text: `A mite was found in ${names}. Your authority says what follows.`,
        tone: "act",
      };
    case "count_all":
    case "count":
      return {
        title: `Count ${advice.act === "count_all" ? "this apiary" : names}.`,
        text: "The current level is not known any more. An old count is not a clear one.",
        tone: "plain",
      };
    case "wait_for_course":
      return {
        title: "Wait for the course.",
        text: `${colonies(advice.in_course)} under treatment or awaiting a check count.`,
        tone: "plain",
      };
    case "count_by":
      return {
        title: "Nothing to do now.",
        text: advice.count_by ? `Count again by ${shortDay(advice.count_by, view.today)}.` : "",
        tone: "plain",
      };
    case "none":
      return { title: "Nothing to do now.", text: "", tone: "plain" };
  }
}
