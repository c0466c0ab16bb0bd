/** Words as they are compared: small letters without accents, so that “cafe” finds “Café”. */
export const fold = (text: string): string => text.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '');
