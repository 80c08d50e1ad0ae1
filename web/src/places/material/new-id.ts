/** An id for a new passage: letters of its title, so that an address can be read, and a few of chance. */
export const newPassageId = (title: string): string => {
  const words = title
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40);
  return `${words || 'passage'}-${crypto.randomUUID().slice(0, 6)}`;
};

/** An id for new marks of a passage. */
export const newVariantId = (): string => `v-${crypto.randomUUID().slice(0, 6)}`;
