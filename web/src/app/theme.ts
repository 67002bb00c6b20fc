// Mantine in the gym's own colours: pine for structure and action, resin for attention.
import { createTheme, type MantineColorsTuple } from "@mantine/core";

const pine: MantineColorsTuple = [
  "#eef4f1",
  "#dbe7e1",
  "#b3cec1",
  "#88b39f",
  "#649c82",
  "#4a8c70",
  "#2f6f57",
  "#255a46",
  "#1f4a3a",
  "#12261f",
];
const resin: MantineColorsTuple = [
  "#fdf3e5",
  "#f7e3c8",
  "#eec690",
  "#e4a755",
  "#dc8d26",
  "#cf7c18",
  "#b96f14",
  "#9a5a0d",
  "#7c4809",
  "#5d3504",
];
const chalk: MantineColorsTuple = [
  "#fffefb",
  "#f7f5ef",
  "#efece3",
  "#e2ded2",
  "#d0cbbc",
  "#b9b3a2",
  "#99937f",
  "#76705f",
  "#565245",
  "#3a382f",
];

export const theme = createTheme({
  colors: { pine, resin, chalk },
  primaryColor: "pine",
  primaryShade: { light: 7, dark: 6 },
  autoContrast: true,
  white: "#fffefb",
  black: "#1c2321",
  respectReducedMotion: true,
  defaultRadius: 3,
  fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
  fontFamilyMonospace: "'Atkinson Hyperlegible Mono Variable', monospace",
  fontSizes: { xs: "13px", sm: "15px", md: "16px", lg: "18px", xl: "21px" },
  components: {
    // As data: naming the component would make every first visit load it.
    Modal: { defaultProps: { closeButtonProps: { "aria-label": "Close" } } },
    // Its element would be a second banner beside the page's.
    ModalHeader: { defaultProps: { role: "presentation" } },
    DrawerHeader: { defaultProps: { role: "presentation" } },
  },
  headings: { fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif" },
});
