using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A works that began with the first release is brought up from every release since, its records with it.</summary>
public class UpgradeTests
{
    public static TheoryData<int> Releases { get; } = [.. Enumerable.Range(1, Database.Newest)];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [MemberData(nameof(Releases))]
    public async Task Records_of_the_first_release_are_read_after_an_upgrade_from_each(int release)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var (caseDocument, verdictDocument) = await DocumentsAsync(yard.Database);
        await using var database = new Database(await TestDatabases.CreateEmptyAsync());
        database.Migrate(upTo: 1);
        await FillAsync(database, caseDocument, verdictDocument);
        database.Migrate(release);
        Assert.Equal(
            release < Database.Newest ? Database.VersionFault.Older : null,
            await database.FaultOfVersionAsync(Cancel)
        );
        database.Migrate();
        Assert.Null(await database.FaultOfVersionAsync(Cancel));

        Assert.Equal("mm", (await new SiteStore(database).GetAsync(Cancel)).Unit);
        var piece = await new PieceStore(database).FindAsync("HM-0001", Cancel);
        Assert.True(piece is { State: PieceState.Held, Unreadable: null, Verdict: VerdictKind.Fit });
        Assert.Contains("Looks bent", piece.OpenHolds[0], StringComparison.Ordinal);
        Assert.Equal("6.5 short ton", piece.RatedLoad.ToString());
        var people = await new PeopleStore(database).AllAsync(Cancel);
        Assert.Equal(["inspector", "qualified"], people.SelectMany(p => p.Roles.Codes).Order());
        var inspector = people.Single(p => p.Username == "ines");
        Assert.Equal(4, (await new PeopleStore(database).AuthorisationsAsync(inspector.Id, Cancel)).Count);
        var rejudged = await new JudgeAgain(database).RunAsync(
            (await new SiteStore(database).SitesAsync(Cancel))!,
            null,
            Cancel
        );
        Assert.Equal((1, 0), (rejudged.Judged, rejudged.Unread.Count));

        // Work goes on: the hold is closed by the rules of today.
        var held = (await new CustodyStore(database).HoldsAsync(piece.Id, Cancel)).Single();
        var by = new Stamp(people.Single(p => p.Roles.Has(Role.Qualified)), DateTimeOffset.UtcNow, Guid.NewGuid());
        var closed = await new CustodyStore(database).ReleaseAsync(
            piece.Id,
            piece.Version,
            held.Id,
            "Straight",
            by,
            Cancel
        );
        Assert.Contains("inspection", closed.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_the_program_before_writes_during_a_rolling_upgrade_is_read_by_this_one()
    {
        await using var yard = await Yard.OpenAsync();
        await using var before = yard.Database.Command(
            """
            insert into store (name, about, kind, often_offline, position) values ('Old Hand', '', 'rack', false, 9);
            insert into own_limit (owner, maker, model, criterion, figure, reason, set_at, set_by)
            select 'site', '', '', 'hook.throat', '4 %', 'Policy', now(), id from person where username = 'qualified';
            update person set mails = false where username = 'inspector';
            update site set watch_share = 0.6, version = version + 1;
            """
        );
        await before.ExecuteNonQueryAsync(Cancel);
        var sites = (await yard.Sites.SitesAsync(Cancel))!;
        Assert.Equal((0.6m, 4m), (sites.Home.WatchShare, Assert.Single(sites.Home.Limits).Limit.Percent));
        Assert.Equal(
            Core.Sites.Site.First,
            (await yard.Sites.StoresAsync(Cancel)).Single(s => s.Name == "Old Hand").Site
        );
        Assert.Empty((await new AccountStore(yard.Database).FindAsync("inspector", yard.Now, Cancel))!.Mails);
    }

    [Theory]
    [InlineData(16)]
    public void Nothing_is_taken_away_that_the_program_before_reads(int since)
    {
        var scripts = typeof(Database)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal)
            .Skip(since - 1)
            .ToList();
        Assert.NotEmpty(scripts);
        foreach (var script in scripts)
        {
            using var reader = new StreamReader(typeof(Database).Assembly.GetManifestResourceStream(script)!);
            Assert.DoesNotMatch("(?i)drop (column|table|view)|rename ", reader.ReadToEnd());
        }
    }

    private static async Task<(string Case, string Verdict)> DocumentsAsync(Database database)
    {
        await using var command = database.Command("select case_document, verdict_document from inspection");
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        Assert.True(await reader.ReadAsync(Cancel));
        return (reader.GetString(0), reader.GetString(1));
    }

    private static async Task FillAsync(Database database, string caseDocument, string verdictDocument)
    {
        await using var fill = database.Command(
            """
            insert into site (name, rule_books) values ('First Works', array['asme', 'osha']);
            insert into store (name, position) values ('Yard', 1);
            insert into person (id, username, name, role, password_hash) values
              ('00000000-0000-0000-0000-000000000001', 'ines', 'Ines', 'inspector', 'hash'),
              ('00000000-0000-0000-0000-000000000002', 'aldous', 'Aldous', 'qualified', 'hash');
            insert into piece (id, mark, family, attributes, rated_load, tag_entries, store_id, peg, state, verdict, open_holds, registered_at)
              values ('00000000-0000-0000-0000-0000000000a1', 'HM-0001', 'shackle', '{"size": "7/8 in", "pinType": "screw"}', '6-1/2 short ton',
                array['maker', 'ratedLoad', 'size'], 1, 'A1', 'held', 'fit', 1, '2025-01-02Z');
            insert into baseline (piece_id, part, criterion, value, basis, set_at, set_by) values
              ('00000000-0000-0000-0000-0000000000a1', 'body', 'shackle.wear-body', '7/8 in', 'new', '2025-01-02Z', '00000000-0000-0000-0000-000000000001'),
              ('00000000-0000-0000-0000-0000000000a1', 'pin', 'shackle.wear-pin', '1 in', 'new', '2025-01-02Z', '00000000-0000-0000-0000-000000000001');
            insert into hold (id, piece_id, cause, reason, placed_at, placed_by) values
              ('00000000-0000-0000-0000-0000000000b1', '00000000-0000-0000-0000-0000000000a1', 'doubt', 'Looks bent', '2025-03-02Z',
                '00000000-0000-0000-0000-000000000001');
            """
        );
        await fill.ExecuteNonQueryAsync(Cancel);
        await using var inspection = database.Command(
            """
            insert into inspection (id, piece_id, kind, inspected_on, signed_at, signed_by, verdict, complete, catalogue_version, case_document, verdict_document)
            values ('00000000-0000-0000-0000-0000000000c1', '00000000-0000-0000-0000-0000000000a1', 'initial', '2025-01-03', '2025-01-03Z',
              '00000000-0000-0000-0000-000000000001', 'fit', true, '2025.1', $1, $2)
            """
        );
        inspection.Parameters.Add(new() { Value = caseDocument });
        inspection.Parameters.Add(new() { Value = verdictDocument });
        await inspection.ExecuteNonQueryAsync(Cancel);
    }
}
