export { Papers } from "./Papers";
export { TakeIn } from "./takein/TakeIn";
