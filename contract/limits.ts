/** So many acts on a document are sent at once at most. */
export const SENT_AT_ONCE = 50
