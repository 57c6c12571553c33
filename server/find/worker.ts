import { follow } from '../platform/follower.ts';
import { FindReplica } from './replica.ts';

follow(() => new FindReplica());
