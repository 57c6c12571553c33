import { follow } from '../platform/follower.ts';
import { FactsReplica } from './replica.ts';

follow(() => new FactsReplica());
