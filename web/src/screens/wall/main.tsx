// The wall's own entry: board and clock, and nothing of the coach's program.
import { pathHere } from "../../api/base";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource/barlow-condensed/500.css";
import "@fontsource/barlow-condensed/600.css";
import "@mantine/core/styles/baseline.css";
import "@mantine/core/styles/default-css-variables.css";
import "@mantine/core/styles/global.css";
import "../../app/base.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Wall } from "./Wall";

const token = decodeURIComponent(pathHere().split("/")[2] ?? "");

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <Wall token={token} />
  </StrictMode>,
);
