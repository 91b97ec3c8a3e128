/** Tells one form of the program's records from another. */
declare const __TYPES__: string;
