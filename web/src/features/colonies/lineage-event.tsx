/** One event of a colony's lineage in words, from the colony's own side. */
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";

export function LineageEvent({ event, own }: { event: Schemas["ColonyEvent"]; own: string }) {
  const otherId = event.colony_id === own ? event.other_colony_id : event.colony_id;
  const otherLabel = event.colony_id === own ? event.other_label : event.own_label;
  const other = otherId ? (
    <Link to="/colonies/$id" params={{ id: otherId }} className="inline-block py-0.5 underline underline-offset-4">
      {otherLabel}
    </Link>
  ) : null;
  const mine = event.colony_id === own;
  const note = event.note ? ` ${event.note}` : "";
  switch (event.kind) {
    case "split_from":
      return mine ? <>split from {other}</> : <>{other} was split from it</>;
    case "merged_into":
      return mine ? (
        <>
          merged into {other}.{note}
        </>
      ) : (
        <>
          {other} was merged into it.{note}
        </>
      );
    case "renumbered":
      return (
        <>
          renumbered from {event.previous} to {event.current}
        </>
      );
    case "moved":
      return event.previous === event.current ? (
        <>moved into another hive.{note}</>
      ) : (
        <>
          moved from {event.previous} to {event.current}.{note}
        </>
      );
    case "state":
      return (
        <>
          {event.previous}, now {event.current}.{note}
        </>
      );
    case "boxes":
      return <>boxes came onto its hive or were taken off: {event.override_why}</>;
    default:
      return <>on record since</>;
  }
}
