import { follow } from '../platform/follower.ts';
import { FindFollowing } from './following.ts';

follow(() => new FindFollowing());
