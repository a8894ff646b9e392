export { ThingForm } from "./ThingForm";
export { ThingList } from "./ThingList";
export { instantOf } from "./model";
