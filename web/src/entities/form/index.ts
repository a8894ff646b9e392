export { ThingList } from "./ThingList";
