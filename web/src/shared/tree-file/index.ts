export { recordsOf } from "./recordsOf";
export { type Point, type TreeFile, type TreeJob, useTreeFile } from "./useTreeFile";
