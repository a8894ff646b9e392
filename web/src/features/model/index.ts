export { ThingForm } from "./components/ThingForm";
export { ThingList } from "./components/ThingList";
export { ThingName } from "./components/ThingName";
export { instantOf } from "./model";
