/** The association: what it judges and treats by, and who works in it. */
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useMay, useSession } from "@/features/session/use-session";
import { Choice } from "@/ui/choice";
import { Page, Title } from "@/ui/page";
import { Members } from "@/features/members/members";
import { PolicySheet } from "./policy";

export function Association() {
  const { person } = useSession();
  const navigate = useNavigate({ from: "/association" });
  const { view } = useSearch({ from: "/in/association" });
  const mayKeepMembers = useMay("keep_members");
  const people = view === "people" && mayKeepMembers;
  return (
    <Page>
      <div className="flex flex-wrap items-end justify-between gap-x-10 gap-y-3">
        <div>
          <Title>{person.association}</Title>
          <p className="mt-1">
            <Link to="/count-weeks" className="inline-block py-1 underline underline-offset-4">
              Count weeks
            </Link>
          </p>
        </div>
        {mayKeepMembers && (
          <div className="w-full desk:w-72">
            <Choice
              label="What to see"
              value={people ? "people" : "policy"}
              options={[
                ["policy", "Policy"],
                ["people", "People"],
              ]}
              onChange={(next) => void navigate({ search: next === "people" ? { view: "people" } : {} })}
            />
          </div>
        )}
      </div>
      {people ? <Members /> : <PolicySheet />}
    </Page>
  );
}
