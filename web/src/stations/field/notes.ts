export const notesKey = ["field-notes"];
