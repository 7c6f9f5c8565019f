/** The keys that what the server holds is kept under here. */
export const designKey = (id: string) => ["design", id] as const;
export const jobKey = (id: string) => ["job", id] as const;
/** Which job a design's own sheets are. */
export const ownJobKey = (design: string) => ["own-job", design] as const;
