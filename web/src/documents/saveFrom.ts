/** Has the browser save what an address of this server gives, under a name. */
export function saveFrom(address: string, name: string) {
  const link = window.document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
}
