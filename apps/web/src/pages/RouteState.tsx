import { Anchor, Center, Loader, Stack, Text, Title } from '@mantine/core';
import { Link, useRouteError } from 'react-router';

export const Loading = () => (
  <Center h="100%">
    <Loader size="sm" color="var(--ink-soft)" aria-label="Loading" />
  </Center>
);

/** What is shown instead of a page that could not be opened. */
export function RouteProblem() {
  const error = useRouteError();
  return (
    <Center h="100%">
      <Stack gap={8} maw={420}>
        <Title order={3}>This page could not be opened</Title>
        <Text>{error instanceof Error ? error.message : 'There is nothing at this address.'}</Text>
        <Anchor component={Link} to="/">
          Back to the Shelf
        </Anchor>
      </Stack>
    </Center>
  );
}
