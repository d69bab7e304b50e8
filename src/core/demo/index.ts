export { demoProject } from "./greenhouse";
