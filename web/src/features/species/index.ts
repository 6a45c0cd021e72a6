export { SideBySidePage } from "./SideBySidePage";
export { SpaceCheck } from "./SpaceCheck";
export { SpeciesPage } from "./SpeciesPage";
export { YearPage } from "./YearPage";
