#!/bin/sh
# Installs this package on a Debian 12 machine: a user of its own, /opt/keralith, the systemd units. Safe to run twice; run
# again from a newer package it upgrades, and records are kept.
set -eu
[ "$(id -u)" = 0 ] || { echo "Run as root." >&2; exit 1; }
here=$(cd "$(dirname "$0")" && pwd)
command -v /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || echo "PostgreSQL is not installed here: apt-get install postgresql, or name a database in /etc/keralith/keralith.env."
getent passwd keralith >/dev/null || useradd --system --home-dir /var/lib/keralith --shell /usr/sbin/nologin keralith
install -d -m 0755 /opt/keralith
install -d -m 0750 -o root -g keralith /etc/keralith
install -d -m 0700 -o keralith -g keralith /var/lib/keralith /var/backups/keralith
rm -rf /opt/keralith/app.new
cp -r "$here/app" /opt/keralith/app.new
rm -rf /opt/keralith/app.old
[ -d /opt/keralith/app ] && mv /opt/keralith/app /opt/keralith/app.old
mv /opt/keralith/app.new /opt/keralith/app
rm -rf /opt/keralith/docs && cp -r "$here/docs" /opt/keralith/docs
[ -e /etc/keralith/keralith.env ] || install -m 0640 -o root -g keralith "$here/keralith.env" /etc/keralith/keralith.env
install -m 0644 "$here"/systemd/* /etc/systemd/system/
systemctl daemon-reload
echo "Installed. Look at /etc/keralith/keralith.env, then: systemctl enable --now keralith keralith-backup.timer"
echo "The address to set the works up at stands in the log: journalctl -u keralith"
