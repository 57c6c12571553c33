import { follow } from '../platform/follower.ts';
import { FactsFollowing } from './following.ts';

follow(() => new FactsFollowing());
