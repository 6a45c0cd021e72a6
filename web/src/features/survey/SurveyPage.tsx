import { useParams } from "react-router";
import { reaches, useMember } from "@/shared/member";
import { Notice } from "@/shared/ui";
import { PickTree } from "./PickTree";
import { Sheet } from "./Sheet";

/** Tree by tree: one thing at a time, all of it on the device until it is saved. */
export function SurveyPage() {
  const { plantId } = useParams();
  const member = useMember();
  if (!reaches(member, "surveyor"))
    return (
      <div className="p-4">
        <Notice>Visits are recorded by surveyors and stewards; your role is {member.role}.</Notice>
      </div>
    );
  return plantId ? <Sheet key={plantId} plantId={plantId} /> : <PickTree />;
}
