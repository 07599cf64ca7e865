import { createTheme, type MantineColorsTuple } from "@mantine/core";
import { MARK } from "./figures";

const grey: MantineColorsTuple = [
  "#f4f4f4",
  "#e2e2e2",
  "#d1d1d1",
  "#b4b4b4",
  "#8f8f8f",
  "#6f6f6f",
  "#5e5e5e",
  "#484848",
  "#2b2b2b",
  "#101010",
];

/** Mantine without a hue: fields are drawn with the room's own ink and hairlines. */
export const theme = createTheme({
  fontFamily: '"Instrument Sans Variable", sans-serif',
  fontFamilyMonospace: '"Spline Sans Mono Variable", monospace',
  fontSizes: { xs: "12px", sm: "13.5px", md: "13.5px", lg: "15px", xl: "17px" },
  colors: { grey },
  primaryColor: "grey",
  primaryShade: 9,
  defaultRadius: 2,
  focusRing: "never",
  components: {
    TextInput: {
      defaultProps: { size: "sm", withAsterisk: false, classNames: { input: "field-input", label: "field-label" } },
    },
    NumberInput: {
      defaultProps: {
        size: "sm",
        classNames: { input: "field-input", label: "field-label" },
        hideControls: true,
        decimalSeparator: MARK,
        allowedDecimalSeparators: [".", ","],
      },
    },
    NativeSelect: {
      defaultProps: {
        size: "sm",
        classNames: { input: "field-input", label: "field-label", section: "field-arrow" },
      },
    },
    Textarea: { defaultProps: { size: "sm", classNames: { input: "field-input", label: "field-label" } } },
    Modal: {
      defaultProps: { classNames: { content: "sheet", header: "sheet" }, closeButtonProps: { "aria-label": "Close" } },
    },
  },
});
