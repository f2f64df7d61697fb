/** The earliest time that a ZIP can name: files of the same content are the same. */
export const ZIP_EPOCH = new Date(1980, 0, 1);
