export { ThingList } from "./ThingList";
export { specOf } from "./model";
