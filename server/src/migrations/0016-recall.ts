import type { Sequelize } from 'sequelize'

const uuid = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const asked = 'VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin'
const engine = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci'
const ofCandidate = (table: string) =>
  `CONSTRAINT ${table}_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE`

/**
 * Cards, what was answered to them, and of each card its answers in order, so that a deck is read without reading every answer. Answers
 * outlive their card, so that Undo brings back both.
 */
export const up = async (sequelize: Sequelize): Promise<void> => {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS recall_cards (
    candidate_id ${uuid} NOT NULL,
    id ${uuid} NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    version INT NOT NULL,
    PRIMARY KEY (candidate_id, id),
    ${ofCandidate('recall_cards')}
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS recall_answers (
    candidate_id ${uuid} NOT NULL,
    id ${uuid} NOT NULL,
    card ${asked} NOT NULL,
    answered_on DATE NOT NULL,
    undone TINYINT(1) NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    PRIMARY KEY (candidate_id, id),
    KEY recall_answers_card (candidate_id, card),
    KEY recall_answers_day (candidate_id, answered_on),
    ${ofCandidate('recall_answers')}
  ) ${engine}`)
  await sequelize.query(`CREATE TABLE IF NOT EXISTS recall_histories (
    candidate_id ${uuid} NOT NULL,
    card ${asked} NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    PRIMARY KEY (candidate_id, card),
    ${ofCandidate('recall_histories')}
  ) ${engine}`)
}
