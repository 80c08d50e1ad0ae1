/** Hands a file to the browser to be saved. */
export const saveAs = (name: string, type: string, ...content: BlobPart[]): void => {
  const address = URL.createObjectURL(new Blob(content, { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
};
