export { CauseBars } from "./CauseBars";
export { HARM_WORDS, harmClass } from "./harm";
export { caseOf, type HealthAnswer, type HealthCase, neighboursOf } from "./healthCase";
export { SignPicture } from "./SignPicture";
export { useDiagnosis, useSignsToLookFor } from "./useDiagnosis";
