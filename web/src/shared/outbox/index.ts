export { copyOf, forgetCopies, forgetOthers, savedCopy } from "./copies";
export { hushNotSaved, saved, tooLittleRoom, useDeviceTrouble } from "./device";
export { nudge, onSent, setOwner, startSender } from "./sender";
export { draftKey, type ItemBody, type OutboxItem, type PhotoItem, store } from "./store";
export { useItem, useOutboxCounts, useSave, useSaved } from "./useOutbox";
