"""Numbers of rows are never used again (AUTOINCREMENT), so that undo and notes about a set can't
mean another one."""

from alembic import op

from guide_arc.library.full_text import make_index

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

TABLES = {
    "client": (
        """
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, name VARCHAR(120) NOT NULL, stature_m FLOAT,
        profile TEXT NOT NULL, UNIQUE (name)"""
    ),
    "recorded_set": (
        """
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, client_id INTEGER NOT NULL,
        track_hash VARCHAR(64),
        source_name VARCHAR(255) NOT NULL, standard VARCHAR(80) NOT NULL,
        school VARCHAR(80) NOT NULL,
        tempo VARCHAR(40), load_kg FLOAT, recorded VARCHAR(40) NOT NULL, pain BOOLEAN NOT NULL,
        state VARCHAR(10) NOT NULL, note TEXT NOT NULL, felt TEXT NOT NULL,
        loose_last INTEGER NOT NULL,
        corrections TEXT NOT NULL, clip_hash VARCHAR(64), capture_hz FLOAT, "view" VARCHAR(8),
        marks TEXT NOT NULL,
        tracked_by VARCHAR(40) NOT NULL, search TEXT NOT NULL, mirrored BOOLEAN NOT NULL,
        urgency FLOAT NOT NULL,
        clean BOOLEAN NOT NULL, other_view_of INTEGER,
        FOREIGN KEY(client_id) REFERENCES client (id),
        FOREIGN KEY(track_hash) REFERENCES track (hash),
        FOREIGN KEY(clip_hash) REFERENCES clip (hash),
        FOREIGN KEY(other_view_of) REFERENCES recorded_set (id) ON DELETE SET NULL"""
    ),
    "decision": (
        """
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, set_id INTEGER NOT NULL,
        finding VARCHAR(80) NOT NULL,
        choice VARCHAR(10) NOT NULL, words TEXT, decided_by VARCHAR(120) NOT NULL,
        decided_at VARCHAR(40) NOT NULL,
        UNIQUE (set_id, finding), FOREIGN KEY(set_id) REFERENCES recorded_set (id)"""
    ),
    "kept": (
        """
        id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, kind VARCHAR(20) NOT NULL, client_id INTEGER,
        about VARCHAR(80) NOT NULL, name VARCHAR(120) NOT NULL, document TEXT NOT NULL,
        FOREIGN KEY(client_id) REFERENCES client (id) ON DELETE CASCADE"""
    ),
}
# Numbers of sets that were erased before this form may still be written in documents about them.
LAST_NAMED = """
    update sqlite_sequence set seq = max(seq, coalesce((
        select max(json_extract(document, '$.set')) from kept
        where json_valid(document) and json_type(document, '$.set') = 'integer'), 0))
    where name = 'recorded_set'"""


def upgrade() -> None:
    bind = op.get_bind()
    if bind.dialect.name != "sqlite":
        return  # a server's sequences never go back
    triggers = bind.exec_driver_sql("select name from sqlite_master where type = 'trigger'")
    for (name,) in triggers.fetchall():
        bind.exec_driver_sql(f'drop trigger "{name}"')
    for table, columns in TABLES.items():
        found = bind.exec_driver_sql(
            "select sql from sqlite_master where tbl_name = ? and type = 'index' and sql is not"
            " null",
            (table,),
        )
        indices = [sql for (sql,) in found.fetchall()]
        names = ", ".join(
            f'"{row[1]}"' for row in bind.exec_driver_sql(f"pragma table_info({table})")
        )
        bind.exec_driver_sql(f"create table numbered ({columns})")
        bind.exec_driver_sql(f"insert into numbered ({names}) select {names} from {table}")
        bind.exec_driver_sql(f"drop table {table}")
        bind.exec_driver_sql(f"alter table numbered rename to {table}")
        for sql in indices:
            bind.exec_driver_sql(sql)
    bind.exec_driver_sql(LAST_NAMED)
    make_index(bind)
