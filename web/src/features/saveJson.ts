/** Offer data to be saved as a JSON file. */
export function saveJson(data: unknown, name: string) {
  saveText(JSON.stringify(data, null, 2), name);
}

/** Offer text that is meant as JSON to be saved as it is. */
export function saveText(text: string, name: string) {
  const url = URL.createObjectURL(new Blob([text], { type: "application/json" }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
