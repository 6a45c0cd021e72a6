export { hushNotSaved, saved, tooLittleRoom, useDeviceTrouble } from "./device";
export { nudge, onSent, setOwner, startSender } from "./sender";
export { draftKey, type ItemBody, type OutboxItem, type PhotoItem, savedCopy, store } from "./store";
export { useItem, useOutboxCounts, useSave, useSaved } from "./useOutbox";
