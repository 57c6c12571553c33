export { Supporters } from './supporters.service.ts';
export { tagIds, contactRows, supporterRow } from './record.ts';
export { serveSupporters } from './supporters.routes.ts';
export { EmailTable, SupporterTable, TagTable, SupporterTagTable } from './supporter.entity.ts';
