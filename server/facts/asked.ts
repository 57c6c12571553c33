import type { Group, Setting } from '@tallystick/core/segments';

/** A group of conditions with all that they are asked with. */
export interface AskedGroup {
  group: Group;
  setting: Setting;
}
