import type { Sequelize } from 'sequelize'

const tables = [
  `CREATE TABLE IF NOT EXISTS users (
    id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    email VARCHAR(254) NOT NULL,
    name VARCHAR(200) NOT NULL,
    password_hash VARCHAR(255) NOT NULL,
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    UNIQUE KEY users_email (email)
  )`,
  `CREATE TABLE IF NOT EXISTS workspaces (
    id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    name VARCHAR(200) NOT NULL,
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL
  )`,
  `CREATE TABLE IF NOT EXISTS memberships (
    workspace_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    user_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    PRIMARY KEY (workspace_id, user_id),
    KEY memberships_user (user_id),
    CONSTRAINT memberships_workspace FOREIGN KEY (workspace_id) REFERENCES workspaces (id) ON DELETE CASCADE,
    CONSTRAINT memberships_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE IF NOT EXISTS exams (
    id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    workspace_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    title VARCHAR(200) NOT NULL,
    digest CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    KEY exams_workspace (workspace_id, digest),
    CONSTRAINT exams_workspace FOREIGN KEY (workspace_id) REFERENCES workspaces (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE IF NOT EXISTS candidates (
    id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    workspace_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    exam_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    user_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL,
    extra LONGTEXT NOT NULL CHECK (JSON_VALID(extra)),
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    KEY candidates_workspace (workspace_id),
    KEY candidates_user (user_id),
    KEY candidates_exam (exam_id),
    CONSTRAINT candidates_workspace FOREIGN KEY (workspace_id) REFERENCES workspaces (id) ON DELETE CASCADE,
    CONSTRAINT candidates_exam FOREIGN KEY (exam_id) REFERENCES exams (id),
    CONSTRAINT candidates_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE SET NULL
  )`,
  `CREATE TABLE IF NOT EXISTS parts (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    part VARCHAR(30) NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    version INT NOT NULL,
    changed_by CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL,
    updated_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, part),
    CONSTRAINT parts_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE,
    CONSTRAINT parts_changed_by FOREIGN KEY (changed_by) REFERENCES users (id) ON DELETE SET NULL
  )`,
  `CREATE TABLE IF NOT EXISTS plans (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    version INT NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    CONSTRAINT plans_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE IF NOT EXISTS plan_sessions (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    id VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    date DATE NOT NULL,
    start CHAR(5) NOT NULL,
    status VARCHAR(12) NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    version INT NOT NULL,
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, id),
    KEY plan_sessions_date (candidate_id, date, start),
    CONSTRAINT plan_sessions_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE IF NOT EXISTS practice_tests (
    candidate_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    date DATE NOT NULL,
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    version INT NOT NULL,
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    PRIMARY KEY (candidate_id, id),
    KEY practice_tests_date (candidate_id, date),
    CONSTRAINT practice_tests_candidate FOREIGN KEY (candidate_id) REFERENCES candidates (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE IF NOT EXISTS web_sessions (
    sid VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    user_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL,
    expires DATETIME NULL,
    data TEXT NULL,
    created_at DATETIME(3) NOT NULL,
    updated_at DATETIME(3) NOT NULL,
    KEY web_sessions_user (user_id),
    KEY web_sessions_expires (expires),
    CONSTRAINT web_sessions_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
  )`,
  `CREATE TABLE IF NOT EXISTS facts (
    name VARCHAR(60) NOT NULL PRIMARY KEY,
    value VARCHAR(200) NOT NULL
  )`,
]

export const up = async (sequelize: Sequelize): Promise<void> => {
  for (const table of tables)
    await sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`)
}
