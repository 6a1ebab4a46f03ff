import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A stored file: a sample bank or a recording. Its bytes are in the data folder, under its hash. */
@Entity('files')
export class FileEntity {
  /** SHA-256 in hexadecimal. */
  @PrimaryColumn('text') hash: string;
  @Column('integer') bytes: number;
  /** ISO 8601. */
  @Column('text') createdAt: string;
}
