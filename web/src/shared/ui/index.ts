export { Button } from "./Button";
export { Check } from "./Check";
export { Choice } from "./Choice";
export { Definition } from "./Definition";
export { Dialog } from "./Dialog";
export { Field, FigureField, Select } from "./Field";
export { Keypad } from "./Keypad";
export { Notice } from "./Notice";
export { PageState } from "./PageState";
