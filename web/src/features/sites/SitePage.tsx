import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { api, type Schemas, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import { type Site, useSites, useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { MeasuringRules } from "@/shared/site/MeasuringRules";
import { Button, Notice, PageState } from "@/shared/ui";
import { DevicePlace } from "./DevicePlace";

/** A new site, or what is changed of one. */
export function SitePage() {
  const member = useMember();
  const { siteId } = useParams();
  const sites = useSites();
  const vocabulary = useVocabulary();
  const site = sites.data?.find((s) => s.id === siteId);
  if (!reaches(member, "steward"))
    return (
      <div className="p-4">
        <Notice kind="refused">Making and changing sites needs the role steward or further.</Notice>
      </div>
    );
  if (!sites.data || !vocabulary.data)
    return <PageState error={sites.error ?? vocabulary.error} what="the sites" />;
  if (siteId !== "new" && !site)
    return (
      <div className="p-4">
        <Notice kind="refused">This site is not found, or you have no access.</Notice>
      </div>
    );
  return <SiteForm key={siteId} site={site} />;
}

function SiteForm({ site }: { site: Site | undefined }) {
  const vocabulary = useVocabulary().data;
  const client = useQueryClient();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const described = vocabulary?.records.office["site"] ?? [];
  // the conventions of a site that is there are changed on Today, where it says what they hold for
  const fields = described
    .filter((f) => !(site && f.id === "conventions"))
    .map((f) => ({ ...f, ...(f.fields ? { fields: f.fields.filter((c) => c.id !== "survey_steps") } : {}) }));
  const [draft, setDraft] = useState<Body>(
    site
      ? Object.fromEntries(fields.map((f) => [f.id, site[f.id as keyof Site]]))
      : { conventions: { region: "us", ...vocabulary?.records.usual_conventions["us"] } },
  );
  const [placed, setPlaced] = useState(0);
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      const body = draft as unknown as Schemas["SiteIn"];
      const saved = site
        ? unwrap(await api.PATCH("/api/sites/{site_id}/", { params: { path: { site_id: site.id } }, body }))
        : unwrap(await api.POST("/api/sites/", { body }));
      await client.invalidateQueries({ queryKey: ["sites"] });
      await navigate(site ? "/" : `/map?site=${saved.id}&new=block`);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The site was not saved.");
    }
  };
  return (
    <div className="mx-auto grid max-w-2xl gap-4 p-4 md:p-8">
      <h1 className="text-3xl">{site ? site.name : params.get("first") ? "The first site" : "New site"}</h1>
      {!site && (
        <p className="max-w-prose text-soft">
          A site is one property. Where it lies decides which trees are to be expected and what shows when;
          its blocks are drawn next.
        </p>
      )}
      <DevicePlace
        onPlace={(lat, lon, elevation_m) => {
          setDraft({ ...draft, lat, lon, ...(elevation_m === null ? {} : { elevation_m }) });
          setPlaced(placed + 1);
        }}
      />
      {vocabulary && (
        <RecordForm
          key={placed}
          fields={fields}
          value={draft}
          onChange={(next) => setDraft(site ? next : withUsual(next, draft, vocabulary))}
          vocabulary={vocabulary}
        />
      )}
      {vocabulary && !site && (
        <MeasuringRules vocabulary={vocabulary} rules={(draft["conventions"] as Body | undefined) ?? {}} />
      )}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" onClick={() => void save()}>
        {site ? "Save site" : "Make the site"}
      </Button>
    </div>
  );
}

/** Another region of a new site brings the conventions that are usual there; each can be chosen otherwise. */
export function withUsual(next: Body, before: Body, vocabulary: Pick<Vocabulary, "records">): Body {
  const region = (body: Body) => String((body["conventions"] as Body | undefined)?.["region"] ?? "us");
  if (region(next) === region(before)) return next;
  const usual = vocabulary.records.usual_conventions[region(next)];
  return { ...next, conventions: { ...(next["conventions"] as Body | undefined), ...usual } };
}
