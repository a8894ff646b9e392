export { GroupPage } from "./pages/GroupPage";
export { GroupsPage } from "./pages/GroupsPage";
