import { useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { api, type Membership, type Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Choice, NumberFields, read, SaveForm, typed } from "../../ui/Form";
import { lengthField } from "../../ui/fields";
import { useDraft } from "../../ui/useDraft";
import type { Rigging } from "./RiggingPage";

type Waters = NonNullable<Schemas["RiggingInput"]["waters"]>;

/** How hard the sea slams where she is used, and how high she may be. */
export function UsedWhere({ me, rigging, units }: { me: Membership; rigging: Rigging; units: Units }) {
  const queries = useQueryClient();
  const length = lengthField(units);
  const fields = [
    length("keel_over_road_m", "Keel over the road", "on her trailer"),
    length("road_m", "Lowest gate or shed", "over the road; 0 for none"),
    length("bridge_m", "Lowest bridge", "over the water; 0 for none"),
    { key: "deck_mm", label: "Deck, thick", unit: "mm", si: 1, hint: "0 if nobody measured" },
  ];
  const scope = `${me.crew_id}.rigged.${rigging.id}.${me.units}`;
  const [waters, setWaters] = useDraft<Waters>(`${scope}.waters`, rigging.settings.waters || "coastal");
  const [deck, setDeck] = useDraft<string>(`${scope}.deck`, rigging.settings.deck ?? "");
  const [working, setWorking] = useDraft<string>(`${scope}.working`, rigging.settings.working_side ?? "");
  const [values, setValues] = useDraft(
    `${scope}.heights`,
    typed(fields, rigging.settings as unknown as Record<string, number>),
  );
  return (
    <section aria-label="Where she is used" className="border-(--hair) border-t pt-3">
      <SaveForm
        name="Where she is used"
        draft={scope}
        button="Keep"
        save={() =>
          api.put("/api/crews/{crew}/boats/{boat}/rigging", {
            params: { path: { crew: me.crew_id, boat: rigging.id } },
            body: {
              ...rigging.settings,
              waters,
              deck: (deck || undefined) as Schemas["RiggingInput"]["deck"],
              working_side: (working || undefined) as Schemas["RiggingInput"]["working_side"],
              ...read(fields, values),
              version: rigging.version,
            },
          })
        }
        onSaved={() => {
          queries.invalidateQueries({ queryKey: ["boat", rigging.id] });
          freshGear(queries);
        }}
      >
        <h2 className="label-type text-xl">Where she is used</h2>
        <Choice label="How hard the sea slams" value={waters} options={WORDS.waters} onChange={setWaters} />
        <Choice
          label="Fish come in"
          value={working}
          options={[
            ["", "on either side"],
            ["port", "to port"],
            ["starboard", "to starboard"],
          ]}
          onChange={setWorking}
        />
        <Choice
          label="People stand on"
          value={deck}
          options={[["", "not known"], ...WORDS.panels] as const}
          onChange={setDeck}
        />
        <NumberFields fields={fields} values={values} onChange={setValues} narrow />
        {rigging.deck && <p className="leading-snug">{rigging.deck}</p>}
      </SaveForm>
    </section>
  );
}
