namespace Keralith.Data;

/// <summary>Keys that seal cookies and forms. Read while the application starts, so not asynchronous.</summary>
public sealed class KeyStore(Database database)
{
    public IReadOnlyList<string> All()
    {
        using var command = database.Command("select xml from protection_key order by id");
        using var reader = command.ExecuteReader();
        var keys = new List<string>();
        while (reader.Read())
            keys.Add(reader.GetString(0));
        return keys;
    }

    public void Add(string id, string xml)
    {
        using var command = database
            .Command("insert into protection_key (id, xml) values ($1, $2) on conflict do nothing")
            .Positional(id, xml);
        command.ExecuteNonQuery();
    }
}
