/** The file of a data URL in base64. */
export const bytesOf = (data: string): Uint8Array =>
  Uint8Array.from(atob(data.slice(data.indexOf(',') + 1)), (c) => c.charCodeAt(0));
