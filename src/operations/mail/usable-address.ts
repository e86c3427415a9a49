/** An address that a mail can go to: what has blanks, brackets or line ends in it could send it elsewhere. */
const addressForm = /^[^\s@<>()[\]\\,;:"\p{Cc}]{1,64}@[^\s@<>()[\]\\,;:"\p{Cc}]{1,190}$/u;

export const usableAddress = (text: string | undefined): string | undefined => (text !== undefined && addressForm.test(text) ? text : undefined);
