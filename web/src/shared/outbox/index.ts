export { hushNotSaved, saved, tooLittleRoom, useDeviceTrouble } from "./device";
export { nudge, onSent, setOwner, startSender } from "./sender";
export { keptCopy, type OutboxItem, type PhotoItem, store } from "./store";
export { useItem, useKeep, useOutboxCounts, useUnsent } from "./useOutbox";
