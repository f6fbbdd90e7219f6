export { TotalCharge as IdentifySide } from "../TotalCharge.tsx";
