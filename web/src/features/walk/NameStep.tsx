import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, unwrap } from "@/api/client";
import { newId } from "@/shared/ids";
import { Button, Field } from "@/shared/ui";
import type { StepProps } from "./WalkPage";

/** The name: by looks on the Bench, or straight in when it is known. */
export function NameStep({ draft, row, change, next }: StepProps) {
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const found = useQuery({
    queryKey: ["names", words],
    enabled: words.trim().length >= 2,
    queryFn: async () => unwrap(await api.GET("/api/naming/names/", { params: { query: { words } } })),
  });
  const take = async (entered: string, taxon?: string) => {
    await change({ name: { id: newId(), entered, taxon, reason: "known to the observer" } });
    next();
  };
  return (
    <div className="grid gap-5">
      {draft.name ? (
        <p>
          Name on this visit: <strong className="latin text-xl">{draft.name.entered}</strong>
          {draft.name.probability ? `, ${Math.round(draft.name.probability * 100)} %` : ""}{" "}
          <button type="button" className="target text-rust underline" onClick={() => void change({ name: null })}>
            remove
          </button>
        </p>
      ) : (
        <p className="text-soft">{row?.name ? `So far it stands as ${row.name}. Leave this step to let that stand.` : "Not named yet."}</p>
      )}
      <Button weight="act" onClick={() => navigate(`/bench/${draft.plant}`)}>
        Name it by looks on the Bench{draft.looks.length ? ` (${draft.looks.length} looks so far)` : ""}
      </Button>
      <div>
        <Field
          label="Or, where the name is known: scientific or common name"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          autoComplete="off"
        />
        <ul className="mt-2 border-t border-rule">
          {found.data?.map((n) => (
            <li key={n.taxon} className="border-b border-rule">
              <button type="button" className="min-h-[53px] w-full text-left" onClick={() => void take(n.name, n.taxon)}>
                <span className="latin text-lg">{n.name}</span>{" "}
                <span className="text-soft">{n.rank === "species" ? n.common : n.rank}</span>
                {n.how !== "accepted" && (
                  <span className="block text-sm text-soft">
                    by {n.how === "spelling" ? "a likely spelling" : n.how}: {n.matched}
                  </span>
                )}
              </button>
            </li>
          ))}
        </ul>
        {words.trim().length >= 2 && found.isFetched && (
          <Button className="mt-2" onClick={() => void take(words.trim())}>
            Keep “{words.trim()}” as entered
          </Button>
        )}
      </div>
    </div>
  );
}
