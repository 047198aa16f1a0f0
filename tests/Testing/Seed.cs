using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;

namespace Keralith.Testing;

/// <summary>What every test database begins with.</summary>
public static class Seed
{
    /// <summary>The people, by role; a second inspector and a second qualified person.</summary>
    public static IReadOnlyDictionary<string, Actor> People { get; } =
        Enum.GetValues<Role>()
            .Select(r => (Code.Of(r), r))
            .Concat([("inspector2", Role.Inspector), ("qualified2", Role.Qualified)])
            .Select((p, i) => new Actor(new Guid(i + 1, 0, 0, new byte[8]), p.Item1, $"Test {p.Item1}", p.Item2))
            .ToDictionary(a => a.Username);

    /// <summary>When what it begins with was told by the ledger.</summary>
    public static DateTimeOffset Begun { get; } = new(2026, 1, 1, 0, 0, 0, TimeSpan.Zero);

    public static async Task FillAsync(Database database)
    {
        await new SiteStore(database).SetUpAsync(
            new(
                "Hollowmere Lock Works",
                [RuleBookShelf.Asme, RuleBookShelf.Find("osha")!],
                Judge.DefaultWatchShare,
                30,
                false,
                false
            ),
            [
                new("Basin Yard", "Workshop", StoreKind.Rack, false),
                new("Workboat Teasel", "", StoreKind.Boat, true),
                new("Upper Flight", "", StoreKind.Container, false),
            ],
            CancellationToken.None
        );
        var people = new PeopleStore(database);
        foreach (var person in People.Values)
            await people.AddAsync(
                person,
                "no password",
                $"{person.Username}@hollowmere.invalid",
                CancellationToken.None
            );

        // Straight into the table, as an earlier program laid it out.
        await using var leave = database.Command(
            "insert into authorisation (person_id, family_group, until, set_at, set_by) select p.id, g, '2099-12-31', '2026-01-01Z', p.id from person p, unnest(array['sling', 'hardware', 'hoist', 'below-hook']) g where p.roles && array['inspector', 'qualified']"
        );
        await leave.ExecuteNonQueryAsync();
    }

    /// <summary>
    /// Many of each piece there is, put straight into the table: marks that end in five figures and serials that begin
    /// with two signs are counted up.
    /// </summary>
    public static async Task MultiplyAsync(Database database, int times)
    {
        await using var command = database.Command(
            $"""
            do $$
            declare columns text := (select string_agg(quote_ident(column_name), ', ') from information_schema.columns
              where table_name = 'piece' and table_schema = current_schema() and is_generated = 'NEVER');
            begin
              execute format('insert into piece (%1$s) select %1$s from (select (jsonb_populate_record(p, jsonb_build_object(
                ''id'', gen_random_uuid(), ''mark'', left(p.mark, -5) || lpad(n::text, 5, ''0''), ''serial'', left(p.serial, 2) || n))).*
                from piece p, generate_series(1, {times - 1}) n) x', columns);
            end $$
            """
        );
        // Thousands of rows with all their indexes: on a busy machine that is minutes.
        command.CommandTimeout = 600;
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>The form of a two-leg chain sling with hooks, everything known of it.</summary>
    public static Dictionary<string, string> Sling(string mark) =>
        EveryFamily.Filled(
            new()
            {
                ["mark"] = mark,
                ["family"] = "alloy-chain-sling",
                ["size"] = "3/8 in",
                ["grade"] = "80",
                ["legs"] = "2",
                ["endFitting"] = "hook",
                ["reach"] = "6 ft",
                ["maker"] = "Orrery Chainworks",
                ["serial"] = $"O-{mark}",
                ["ratedLoad"] = "12200 lb",
                ["ratedFor"] = "2 legs at 60 deg",
                ["designFactor"] = "4",
                ["store"] = "1",
                ["peg"] = "A1",
            },
            c =>
                c switch
                {
                    "hook.throat" => "1-3/8 in",
                    "hook.wear" => "1 in",
                    "chain.gauge-growth" => "11.25 in",
                    _ => "3/4 in",
                }
        );

    /// <summary>The form of a screw pin shackle, everything known of it.</summary>
    public static Dictionary<string, string> Shackle(string mark) =>
        EveryFamily.Filled(
            new()
            {
                ["mark"] = mark,
                ["family"] = "shackle",
                ["size"] = "7/8 in",
                ["pinType"] = "screw",
                ["maker"] = "Pellow Forge",
                ["serial"] = $"P-{mark}",
                ["ratedLoad"] = "6-1/2 short ton",
                ["store"] = "1",
                ["peg"] = "B2",
            },
            c => c == "shackle.wear-pin" ? "1 in" : "7/8 in"
        );

    /// <summary>The form of a piece of any family, everything known of it.</summary>
    public static Dictionary<string, string> With(
        string mark,
        string family,
        params (string Name, string Value)[] attributes
    )
    {
        var fields = new Dictionary<string, string>
        {
            ["mark"] = mark,
            ["family"] = family,
            ["maker"] = "Pellow Forge",
            ["serial"] = $"X-{mark}",
            ["ratedLoad"] = "2 t",
            ["store"] = "1",
            ["peg"] = "C3",
        };
        foreach (var (name, value) in attributes)
            fields[name] = value;
        return EveryFamily.Filled(fields, c => c == "rope.diameter" ? "20 mm" : "1 in");
    }
}
