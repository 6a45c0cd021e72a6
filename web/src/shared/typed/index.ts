export * from "./typed";
