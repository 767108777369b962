import { IconBulb, IconFlag, IconLamp2, IconQuestionMark, IconSun, type Icon } from '@tabler/icons-react';

/** What stands for each kind of thing in lists. A test asks for every kind of the catalogue. */
export const KIND_ICONS: Readonly<Record<string, Icon>> = {
  spawn: IconFlag,
  pointLight: IconBulb,
  spotLight: IconLamp2,
  sun: IconSun,
};

/** The icon of a kind; a question mark for one of a newer version. */
export const kindIcon = (kind: string): Icon => KIND_ICONS[kind] ?? IconQuestionMark;
