import { Column, Entity, PrimaryColumn } from 'typeorm';

/** An edit that was saved: sent again, it is answered as it was the first time. */
@Entity('edits')
export class EditEntity {
  @PrimaryColumn('text') id: string;
  /** SHA-256 of what it wrote, in hexadecimal. */
  @Column('text') hash: string;
  /** JSON. */
  @Column('text') answer: string;
  /** ISO 8601. */
  @Column('text') savedAt: string;
}
