import type { Sequelize } from 'sequelize'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const engine = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'

/** Tests that are being sat, and everything that was pressed in them. */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS rooms (
    candidate_id ${uuid} NOT NULL,
    id ${uuid} NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    holder ${uuid} NULL,
    device VARCHAR(60) NOT NULL DEFAULT '',
    heard_at DATETIME(3) NOT NULL,
    stands VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT 'open',
    events INT NOT NULL DEFAULT 0,
    created_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, id),
    CONSTRAINT rooms_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS room_events (
    candidate_id ${uuid} NOT NULL,
    room_id ${uuid} NOT NULL,
    life ${uuid} NOT NULL,
    n INT NOT NULL,
    document TEXT NOT NULL CHECK (JSON_VALID(document)),
    PRIMARY KEY (candidate_id, room_id, life, n),
    CONSTRAINT room_events_room FOREIGN KEY (candidate_id, room_id)
      REFERENCES rooms (candidate_id, id) ON DELETE CASCADE
  ) ${engine}`)
}
