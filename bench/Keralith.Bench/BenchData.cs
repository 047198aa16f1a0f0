using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Testing;

namespace Keralith.Bench;

/// <summary>
/// A register of a chosen size, the same every time: one piece of each family is registered as the product does it, the
/// rest are made from those by PostgreSQL.
/// </summary>
internal static class BenchData
{
    /// <summary>Pieces a store holds.</summary>
    public const int AStore = 5000;

    /// <summary>Signed inspections a piece has, of two findings each.</summary>
    public const int InspectionsEach = 10;

    /// <summary>A signed case with two measured answers, as the records keep it.</summary>
    private const string Case = """
        {"format":"keralith.case/1","ruleBooks":["asme","osha"],"kind":"periodic","gear":{"family":"shackle","size":"7/8 in","pinType":"screw"},"answers":[{"criterion":"shackle.wear-body","part":"body","value":"0.86 in","baseline":"7/8 in","baselineBasis":"new"},{"criterion":"shackle.wear-pin","part":"pin","value":"0.99 in","baseline":"1 in","baselineBasis":"new"}]}
        """;

    private const string Verdict =
        """{"format":"keralith.verdict/1","verdict":"fit","complete":true,"findings":[],"missing":[]}""";

    /// <summary>The mark of the piece of a number, from 1.</summary>
    public static string Mark(int number) => $"B-{number:000000}";

    /// <summary>The number of the nth piece of a family.</summary>
    public static int NumberOf(string family, int nth) =>
        (nth * GearFamilies.All.Count) + GearFamilies.All.ToList().FindIndex(f => f.Code == family);

    /// <summary>The serial of the piece of a number: no two alike.</summary>
    public static string Serial(int number) => $"S{number * 7919L % 1_000_003:0000000}";

    public static async Task FillAsync(string connectionString, int pieces)
    {
        await using var database = new Database(connectionString);
        database.Migrate();
        await Seed.FillAsync(database);
        var stamp = new Stamp(Seed.People["qualified"], DateTimeOffset.UtcNow, Guid.NewGuid());
        var made = GearFamilies
            .All.Select((f, i) => (Guid.NewGuid(), PieceEntryReader.Read(EveryFamily.Form(f, $"T-{i:00}")).Entry!))
            .ToList();
        var registered = await new PieceStore(database).RegisterAsync(made, stamp, CancellationToken.None);
        if (!registered.Ok)
            throw new InvalidOperationException(registered.Fault);
        foreach (var (sql, values) in Steps(pieces, made.Count))
        {
            await using var command = database.Command(sql);
            command.CommandTimeout = 1800;
            foreach (var value in values)
                command.Parameters.Add(new() { Value = value });
            await command.ExecuteNonQueryAsync();
        }
    }

    private static IEnumerable<(string Sql, object[] Values)> Steps(int pieces, int families)
    {
        // Millions of rows that no act writes: told or not is for who measures it.
        yield return (Guards("disable"), []);
        yield return (
            "insert into store (name, about, position) select 'Store ' || i, '', 100 + i from generate_series(1, $1) i",
            [(pieces + AStore - 1) / AStore]
        );
        yield return (
            """
            insert into piece (id, mark, family, serial, maker, model, attributes, rated_load, rated_kg, design_factor, rated_for, tag_entries, details, service_class, store_id, peg, state, verdict, periodic_due, frequent_due, registered_at, touched, last_by, open_holds)
            select md5('piece ' || i)::uuid, 'B-' || to_char(i, 'FM000000'), t.family, 'S' || to_char(i::bigint * 7919 % 1000003, 'FM0000000'), (array['Pellow Forge', 'Orrery Chainworks', 'Quillon Hoists', 'Tansy Rope', 'Ferrow Steel'])[1 + i % 5], 'M' || i % 300,
                   t.attributes, t.rated_load, t.rated_kg * (1 + i % 9), t.design_factor, t.rated_for, t.tag_entries, t.details, t.service_class,
                   (select min(id) from store where position > 100) + (i - 1) / 5000, chr(65 + (i / 100) % 26) || '-' || i % 100,
                   case when i % 40 = 0 then 'held' else 'in-service' end, case when i % 7 = 0 then 'watch' else 'fit' end,
                   current_date + (i % 700) - 10, null, now(), current_date, (select id from person where username = 'inspector'), (i % 40 = 0)::int
            from generate_series(1, $1) i join (select row_number() over (order by mark) - 1 as n, piece.* from piece where mark like 'T-%') t on t.n = i % $2
            """,
            [pieces, families]
        );
        // What was just written is not known to the planner yet: it would pair every piece with every other.
        yield return ("analyze", []);
        yield return (
            """
            insert into baseline (piece_id, part, criterion, value, basis, links, set_at, set_by)
            select md5('piece ' || i)::uuid, b.part, b.criterion, b.value, b.basis, b.links, b.set_at, b.set_by
            from generate_series(1, $1) i join (select row_number() over (order by mark) - 1 as n, id from piece where mark like 'T-%') t on t.n = i % $2 join baseline b on b.piece_id = t.id
            """,
            [pieces, families]
        );
        yield return (
            """
            insert into inspection (id, piece_id, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document)
            select md5('inspection ' || i || ' ' || k)::uuid, md5('piece ' || i)::uuid, 'periodic', current_date - k * 90, now() - k * interval '90 days', (select id from person where username = 'inspector'), 'fit', true, '1', $3, $4
            from generate_series(1, $1) i, generate_series(1, $2) k
            """,
            [pieces, InspectionsEach, Case, Verdict]
        );
        yield return (
            """
            insert into hold (id, piece_id, cause, reason, placed_at, placed_by)
            select md5('hold ' || i)::uuid, md5('piece ' || i)::uuid, 'doubt', 'a doubt', now(), (select id from person where username = 'inspector') from generate_series(40, $1, 40) i
            """,
            [pieces]
        );
        yield return (Guards("enable always"), []);
        yield return ("vacuum analyze", []);
    }

    /// <summary>Has the tables of the record tell what is written into them, or not.</summary>
    private static string Guards(string how) =>
        string.Join(';', VerifyStore.OfTheRecord.Keys.Select(t => $"alter table {t} {how} trigger {t}_is_told"));
}
