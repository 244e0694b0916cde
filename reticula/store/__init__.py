"""What is kept: projects, graphs with their edit log, assets and settings, in MariaDB through SQLAlchemy."""
