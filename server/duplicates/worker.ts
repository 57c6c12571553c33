import { follow } from '../platform/follower.ts';
import { AlikeReplica } from './replica.ts';

follow(() => new AlikeReplica());
