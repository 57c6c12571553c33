import type { When } from '@tallystick/core/upkeep';
import { follow } from '../platform/follower.ts';
import { threadData } from '../platform/thread.ts';
import { UpkeepReplica } from './replica.ts';

const { when } = threadData<{ when: When }>();
follow(() => new UpkeepReplica(when));
