import { useMemo } from "react";
import { readNumber } from "@/shared/numbers";
import { type Site, useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { useSite } from "./InSite";

type Table = Vocabulary["records"]["units"];
export type System = Site["units"];

/** How figures, which are stored in SI units, are entered and shown on a site. */
export interface Units {
  system: System;
  /** the unit's label: 'in' for what is stored in cm */
  label: (si: string) => string;
  /** the figure alone, to the unit's decimals */
  figure: (value: number, si: string, places?: number) => string;
  /** the figure with its unit */
  shown: (value: number, si: string, places?: number) => string;
  /** the figure as one would type it: no zeros behind the last decimal that says something */
  typed: (value: number, si: string) => string;
  /** what was typed, in the stored unit; null for what is no number */
  read: (text: string, si: string) => number | null;
}

const TYPED_PLACES = 3;

/** The units of a system, by the core's own table. */
export function unitsOf(system: System, table: Table | undefined): Units {
  const unit = (si: string) => table?.[system]?.[si] ?? { label: si, per: 1, places: 1 };
  const figure = (value: number, si: string, places = unit(si).places) =>
    (value / unit(si).per).toFixed(places);
  return {
    system,
    label: (si) => unit(si).label,
    figure,
    shown: (value, si, places) => `${figure(value, si, places)} ${unit(si).label}`,
    typed: (value, si) => String(Number((value / unit(si).per).toFixed(TYPED_PLACES))),
    read: (text, si) => {
      const number = readNumber(text);
      return number === null ? null : number * unit(si).per;
    },
  };
}

/** The units of a site. */
export function useUnitsOf(site: Site | undefined): Units {
  const table = useVocabulary().data?.records.units;
  const system = site?.units ?? "metric";
  return useMemo(() => unitsOf(system, table), [system, table]);
}

/** The units of the site at hand. */
export const useUnits = (): Units => useUnitsOf(useSite());

/** A label that ends in an SI unit, in the units of the site: 'Core length (cm)' becomes 'Core length (in)'. */
export const labelIn = (units: Units, label: string, si: string | undefined) =>
  si ? label.replace(/ \([^)]*\)$/, ` (${units.label(si)})`) : label;
