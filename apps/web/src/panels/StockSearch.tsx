import { Group, TextInput, UnstyledButton } from '@mantine/core';

/** What a list of Stock is narrowed by: words, and one of a few heads that can be pressed. */
export function StockSearch({
  what,
  search,
  onSearch,
  heads,
  names,
  head,
  onHead,
}: {
  /** What is searched, as in "Search props". */
  what: string;
  search: string;
  onSearch: (search: string) => void;
  /** What the heads are called together. */
  heads: string;
  names: readonly { readonly id: string; readonly label: string }[];
  /** The one that is pressed; null for none. */
  head: string | null;
  onHead: (id: string | null) => void;
}) {
  return (
    <>
      <TextInput
        size="xs"
        placeholder="Search by word or tag"
        aria-label={`Search ${what}`}
        value={search}
        onChange={(e) => onSearch(e.currentTarget.value)}
      />
      <Group gap={4} role="group" aria-label={heads}>
        {names.map(({ id, label }) => (
          <UnstyledButton
            key={id}
            className="stock-tag"
            aria-pressed={head === id}
            data-active={head === id || undefined}
            onClick={() => onHead(head === id ? null : id)}
          >
            {label}
          </UnstyledButton>
        ))}
      </Group>
    </>
  );
}

/** Whether a text has all words of a search in it. */
export function hasWords(search: string): (text: string) => boolean {
  const words = search.trim().toLowerCase().split(/\s+/).filter(Boolean);
  return (text) => words.every((w) => text.toLowerCase().includes(w));
}
