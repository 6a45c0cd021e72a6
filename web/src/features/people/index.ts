export { AccountPage } from "./AccountPage";
export { AuditPage } from "./AuditPage";
export { ContactsPage } from "./ContactsPage";
export { PeoplePage } from "./PeoplePage";
