"""Starting everything: a private MariaDB, migrations, the demo, the service; and stopping it again."""
