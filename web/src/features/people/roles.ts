/** What each role may do, in a line: shown where one is chosen. */
export const ROLES = [
  { id: "viewer", label: "viewer", hint: "sees everything, changes nothing" },
  { id: "surveyor", label: "surveyor", hint: "names, measures and records trees" },
  { id: "steward", label: "steward", hint: "makes sites and blocks, reads files in" },
  { id: "owner", label: "owner", hint: "brings people in, sees who did what" },
];
