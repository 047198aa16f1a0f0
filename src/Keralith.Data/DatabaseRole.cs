using Npgsql;

namespace Keralith.Data;

/// <summary>
/// The role the application works under: it reads and writes records, and can neither alter nor drop a table, nor
/// disable a trigger, nor change what is signed. Whoever migrates is another.
/// </summary>
public static class DatabaseRole
{
    /// <summary>Its name.</summary>
    public const string Name = "keralith_app";

    /// <summary>Gives the role what it needs of a migrated database; nothing where the server has no such role.</summary>
    /// <param name="owner">The connection string of whoever migrated.</param>
    internal static void Grant(string owner)
    {
        using var connection = new NpgsqlConnection(owner);
        connection.Open();
        using var command = new NpgsqlCommand(
            $"""
            do $$
            declare t text;
            begin
              if not exists (select from pg_roles where rolname = '{Name}') then
                return;
              end if;
              execute 'grant usage on schema public to {Name}';
              execute 'grant select, insert, update, delete on all tables in schema public to {Name}';
              execute 'grant usage, select on all sequences in schema public to {Name}';
              execute 'revoke insert, update, delete on schemaversions from {Name}';
              for t in
                select c.relname from pg_trigger g join pg_class c on c.oid = g.tgrelid where g.tgname = c.relname || '_is_append_only'
              loop
                execute format('revoke update, delete on %I from {Name}', t);
              end loop;
            end $$
            """,
            connection
        );
        command.ExecuteNonQuery();
    }
}
