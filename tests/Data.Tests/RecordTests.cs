using Keralith.Testing;
using Xunit;
using static Keralith.Data.Tests.Tampering;

namespace Keralith.Data.Tests;

/// <summary>
/// The ledger alone gives the present: whatever row of whatever table of the record is changed, put in or taken out behind the
/// acts is named, and a works made anew from the ledger is the works it was made of.
/// </summary>
public class RecordTests
{
    /// <summary>Every act done once, and nobody connected: each test begins from a copy.</summary>
    private static readonly Lazy<Task<string>> Done = new(DoneAsync);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<string> DoneAsync()
    {
        await using var yard = await Yard.OpenAsync();
        await EveryAct.DoneAsync(yard);
        return yard.Database.ConnectionString;
    }

    private static async Task<Yard> OpenAsync()
    {
        var yard = await Yard.CopyAsync(await Done.Value);
        yard.Now = DateTimeOffset.UtcNow;
        return yard;
    }

    private static async Task<IReadOnlyList<Unverified>> FoundAsync(Database database) =>
        await new VerifyStore(database).RunAsync(DateTimeOffset.UtcNow, Cancel);

    [Fact]
    public async Task Every_act_is_told_row_by_row()
    {
        await using var yard = await OpenAsync();
        Assert.Equal([], (await FoundAsync(yard.Database)).Select(f => $"{f.Mark}: {f.Why}"));
        foreach (var table in await TablesAsync(yard.Database, isOfRecord: true))
            Assert.True(await CountAsync(yard.Database, table) > 0, $"{table} is empty: no act of it is tried.");
        Assert.Equal(0, await CountAsync(yard.Database, "record_change"));
    }

    [Fact]
    public async Task Every_other_table_says_why_it_is_not_of_the_record()
    {
        await using var yard = await OpenAsync();
        Assert.Equal(
            (await TablesAsync(yard.Database, isOfRecord: false)).Order(StringComparer.Ordinal),
            VerifyStore.NotOfTheRecord.Keys.Order(StringComparer.Ordinal)
        );
        Assert.All(VerifyStore.NotOfTheRecord.Values, why => Assert.True(why.Length > 10));
    }

    /// <summary>What an attack from outside changed unseen: what was changed, what is named, and in which figure of it.</summary>
    public static TheoryData<string, (string Sql, string What, string Column)[]> Changed { get; } =
        new()
        {
            {
                "a piece and what hangs on it",
                [
                    ("update hold set piece_id = (select id from piece where mark = 'HM-0020')", "hold", "piece_id"),
                    ("update hold set reason = 'Scratched'", "hold", "reason"),
                    ("update hold set seq = seq - 1000", "hold", "seq"),
                    ("update season_mark set season_for = '2099-01-01'", "season's mark", "season_for"),
                    ("update piece set season_for = '2099-01-01' where mark = 'HM-0020'", "piece", "season_for"),
                    ("update piece set store_id = 3 where mark = 'HM-0020'", "piece", "store_id"),
                    ("update piece set peg = 'Z9' where mark = 'HM-0020'", "piece", "peg"),
                    ("update piece set rated_kg = 99000 where mark = 'HM-0020'", "piece", "rated_kg"),
                    ("update piece set lot_count = 99 where mark = 'HM-0002'", "piece", "lot_count"),
                    ("update baseline set basis = 'catalogue'", "figure when new", "basis"),
                    ("update carried_over set last_periodic = '2026-02-20'", "report taken over", "last_periodic"),
                    ("update carried_over set evidence = 'survey 4'", "report taken over", "evidence"),
                    ("update inspection set kind = 'after-event' where kind = 'periodic'", "inspection", "kind"),
                    ("update inspection set notes = '{\"whole\": \"fine\"}'", "inspection", "notes"),
                    ("update inspection set instruments = '[\"Caliper 9\"]'", "inspection", "instruments"),
                    ("update inspection set next_by = '2099-01-01'", "inspection", "next_by"),
                    (
                        """
                        insert into supersession select id, null, 'Wrong', now(), signed_by from inspection i
                        where not exists (select from supersession s where s.inspection_id = i.id or s.became = i.id) limit 1
                        """,
                        "correction of an inspection",
                        "is told by no entry"
                    ),
                ]
            },
            {
                "the works and its people",
                [
                    ("update own_limit set figure = '30 %'", "Limit", "figure"),
                    ("update instrument set calibration_due = '2099-01-01'", "Instrument", "calibration_due"),
                    ("update instrument set uncertainty = '0 mm'", "Instrument", "uncertainty"),
                    ("update proof_ask set months = 120", "Proof test asked", "months"),
                    ("update lift set state = 'ready' where state = 'called-off'", "Lift", "state"),
                    (
                        "update lift set fields = fields || '{\"weight\": \"1 kg\"}' where state <> 'planned'",
                        "Lift",
                        "fields"
                    ),
                    ("update person set roles = array['admin'] where username = 'crew'", "Person", "roles"),
                    ("update person set name = 'Somebody' where username = 'stores'", "Person Somebody", "name"),
                    ("update person set password_hash = 'known' where username = 'crew'", "Person", "password_hash"),
                    (
                        "update person set password_hash = 'known', roles = array['admin'] where username = 'keralith'",
                        "Person Keralith itself",
                        "roles"
                    ),
                    ("update person set disabled_at = now() where username = 'crew'", "Person", "disabled_at"),
                    ("update person set mail = 'a@hollowmere.invalid' where username = 'crew'", "Person", "mail"),
                    ("update api_token set revoked_at = null", "Token of a program", "revoked_at"),
                    ("update api_token set roles = array['admin', 'qualified']", "Token of a program", "roles"),
                    ("update store set name = 'Elsewhere' where id = 1", "Store Elsewhere", "name"),
                    ("update authorisation set until = '2199-01-01'", "Authorisation", "until"),
                    ("update head_key set public_pem = 'none'", "Key of the heads", "public_pem"),
                    ("update head_key set sealed = 'another'", "Key of the heads", "sealed"),
                    ("update attachment set bytes = 'another'", "another than", "was attached"),
                    ("update attachment set small = 'another'", "File", "small"),
                ]
            },
            {
                "taken out",
                [
                    ("delete from hold where id in (select id from hold limit 1)", "hold", "is gone"),
                    ("delete from hold where recall_id is not null", "hold", "is gone"),
                    ("delete from recall where source = 'Notice 5'", "Recall", "is gone"),
                    ("delete from disposal where step = 'condemned'", "condemning or destruction", "is gone"),
                    ("delete from move where kind = 'lost'", "move", "is gone"),
                    ("delete from evidence", "keeping as evidence", "is gone"),
                    ("delete from fact_change", "change of facts", "is gone"),
                    ("delete from give_back", "giving back", "is gone"),
                    ("delete from issue", "hand-out", "is gone"),
                    ("delete from supersession", "correction of an inspection", "is gone"),
                    ("delete from season_mark", "season's mark", "is gone"),
                    ("delete from piece_attachment", "file of a piece", "is gone"),
                    ("delete from piece where mark = 'HM-0031'", "Piece HM-0031", "is gone"),
                    ("delete from own_limit", "Limit hook.throat", "is gone"),
                    (
                        "delete from own_question where id not in (select question_id from question_withdrawal)",
                        "Own question",
                        "is gone"
                    ),
                    ("delete from lift_record", "Step of a lift", "is gone"),
                    ("delete from round", "Round", "is gone"),
                    ("delete from ledger_head", "Head kept beside the ledger", "is gone"),
                    ("delete from tree_head", "Signed head", "is gone"),
                ]
            },
            {
                "the ledger's own rows",
                [
                    ("delete from ledger_row where kind = 'retag'", "are others than", "sealed with"),
                    (
                        "update ledger_row set image = image || '{\"reason\": \"None\"}' where kind = 'hold'",
                        "are others than",
                        "sealed with"
                    ),
                    ("alter table hold disable trigger hold_is_told", "the table hold", "its trigger is off"),
                ]
            },
        };

    [Theory]
    [MemberData(nameof(Changed))]
    public async Task What_was_changed_unseen_is_named(string of, (string Sql, string What, string Column)[] changes)
    {
        await using var yard = await OpenAsync();
        foreach (var (sql, _, _) in changes)
            Assert.True(await UnseenAsync(yard, sql), $"{of}: nothing to change by {sql}");
        var found = await FoundAsync(yard.Database);
        Assert.All(changes, c =>
            Assert.Contains(found, f =>
                (
                    f.Why.Contains($"({c.What})", StringComparison.Ordinal)
                    || f.Why.Contains(c.What, StringComparison.Ordinal)
                ) && f.Why.Contains(c.Column, StringComparison.Ordinal)
            )
        );
    }

    /// <summary>Every setting of a site, each by itself, what can't be read any more among them.</summary>
    [Fact]
    public async Task Every_setting_of_a_site_changed_unseen_is_named()
    {
        await using var yard = await OpenAsync();
        var changed = new List<string>();
        foreach (var column in await ToldAsync(yard, "site"))
        {
            if (column != "id" && await ChangedAsync(yard, "site", column))
                changed.Add(column);
        }

        Assert.True(changed.Count > 15, string.Join(", ", changed));
        var why = string.Join(
            '\n',
            (await FoundAsync(yard.Database))
                .Select(f => f.Why)
                .Where(w => w.StartsWith("Settings", StringComparison.Ordinal))
        );
        Assert.All(changed, c => Assert.Contains(c, why, StringComparison.Ordinal));
    }

    /// <summary>
    /// A row of each table of the record taken by chance, and changed in a column taken by chance, put in once more, or taken out:
    /// each is named, whatever the table. Longer than most, and worth it: no list of cases can hold every column.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public async Task Any_row_of_any_table_of_the_record_changed_put_in_or_taken_out_is_named(int seed)
    {
        await using var yard = await OpenAsync();
        Assert.True(await NamedByChanceAsync(yard, new(seed)) > 45);
    }

    /// <summary>What is written outside any act stops its piece from that moment on, before anybody verifies.</summary>
    [Theory]
    [InlineData("update piece set rated_kg = 99000 where mark = 'HM-0020'")]
    [InlineData("update piece set peg = 'Z9' where mark = 'HM-0020'")]
    [InlineData(
        "set session_replication_role = replica; delete from hold where piece_id = (select id from piece where mark = 'HM-0020')"
    )]
    [InlineData("set session_replication_role = replica; update inspection set next_by = '2099-01-01'")]
    [InlineData("set session_replication_role = replica; update season_mark set season_for = '2099-01-01'")]
    public async Task What_is_written_outside_any_act_stops_its_piece_at_once(string sql)
    {
        await using var yard = await OpenAsync();
        Yard.Must(await yard.HoldAsync("crew", "HM-0020"));
        Assert.Null((await yard.FindAsync("HM-0020")).Distrust);
        await yard.AsOwnerAsync(sql);
        var piece = await yard.FindAsync("HM-0020");
        Assert.Contains("written outside any act", piece.Distrust, StringComparison.Ordinal);
        Assert.False(piece.UseOn(DateOnly.FromDateTime(yard.Now.Date), await yard.Sites.GetAsync(Cancel)).MayBeUsed);
    }

    [Fact]
    public async Task A_works_made_anew_from_its_ledger_and_files_is_the_works_it_was_made_of()
    {
        await using var yard = await OpenAsync();
        await using var anew = new Database(await TestDatabases.CreateEmptyAsync());
        var said = new List<string>();
        var made = await RebuildAsync(yard.Database, anew, said.Add);
        Assert.Equal([], (await FoundAsync(anew)).Select(f => $"{f.Mark}: {f.Why}"));
        Assert.Equal(await CountAsync(yard.Database, "piece"), made.Pieces);
        Assert.Contains("the table of the record piece", said);
        await EqualAsync(yard.Database, anew);

        // It is worked on as any other: numbers go on, and each act is told.
        var custody = new CustodyStore(anew);
        var piece = (await new PieceStore(anew).FindAsync("HM-0020", Cancel))!;
        Yard.Must(await custody.HoldAsync(piece.Id, Core.Custody.HoldCause.Doubt, "Bent", yard.Stamp("crew"), Cancel));
        Assert.Equal([], (await FoundAsync(anew)).Select(f => $"{f.Mark}: {f.Why}"));
    }

    [Theory]
    [InlineData("update ledger set data = replace(data, 'Bent', 'Fine')", "was changed")]
    [InlineData("delete from ledger where number = 12", "is missing")]
    [InlineData("update ledger_row set image = image || '{\"peg\": \"Z9\"}' where kind = 'piece'", "others than")]
    [InlineData("delete from ledger_row where kind = 'hold'", "others than")]
    public async Task Nothing_is_made_anew_from_a_ledger_that_is_not_whole(string sql, string why)
    {
        await using var yard = await OpenAsync();
        await UnseenAsync(yard, sql);
        await using var anew = new Database(await TestDatabases.CreateEmptyAsync());
        var refused = await Assert.ThrowsAsync<InvalidDataException>(() => RebuildAsync(yard.Database, anew));
        Assert.Contains(why, refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_stood_before_entries_told_their_rows_is_told_once_and_nothing_put_in_later()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await using var anew = new Database(await TestDatabases.CreateEmptyAsync());
        var refused = await Assert.ThrowsAsync<InvalidDataException>(() => RebuildAsync(yard.Database, anew));
        Assert.Contains("does not tell the whole record", refused.Message, StringComparison.Ordinal);
        var seal = new RecordSeal(yard.Database);
        Assert.True(await seal.RunAsync(yard.Now, Cancel) > 10);
        Assert.Empty(await FoundAsync(yard.Database));
        await UnseenAsync(yard, "insert into store (name, position) values ('Nobody''s', 9)");
        Assert.Equal(0, await seal.RunAsync(yard.Now, Cancel));
        Assert.Contains(await FoundAsync(yard.Database), f =>
            f.Why.Contains("Store Nobody's is told by no entry", StringComparison.Ordinal)
        );
        await RebuildAsync(yard.Database, anew);
        Assert.Equal(3, await CountAsync(anew, "store"));
    }

    /// <summary>Changes a row of each table of the record by chance, and asks that each is named.</summary>
    /// <returns>How many tables.</returns>
    internal static async Task<int> NamedByChanceAsync(Yard yard, Random chance)
    {
        var changed = await ByChanceAsync(yard, chance);
        var found = (await FoundAsync(yard.Database)).Select(f => f.Why).ToList();
        Assert.All(changed, c =>
            Assert.True(
                found.Any(w => IsOf(w, VerifyStore.OfTheRecord[c.Table])),
                $"{c.Table}, {c.How}: not named among {string.Join(" / ", found.Take(20))}"
            )
        );
        return changed.Count;

        static bool IsOf(string why, string what) =>
            why.Contains($"({what})", StringComparison.Ordinal)
            || why.StartsWith($"{what} ", StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public async Task A_verification_that_was_cut_off_goes_on_behind_the_last_step_it_finished()
    {
        await using var yard = await OpenAsync();
        await UnseenAsync(yard, "update store set name = 'Elsewhere' where id = 1");
        var file = Path.GetTempFileName();
        var steps = new List<string>();
        await Assert.ThrowsAsync<OperationCanceledException>(() =>
            new VerifyStore(yard.Database).RunAsync(
                yard.Now,
                Cancel,
                step =>
                {
                    steps.Add(step);
                    return steps.Count == 12 ? throw new OperationCanceledException() : Task.CompletedTask;
                },
                new VerifyProgress(file)
            )
        );
        var rest = new List<string>();
        var found = await new VerifyStore(yard.Database).RunAsync(
            yard.Now,
            Cancel,
            step =>
            {
                rest.Add(step);
                return Task.CompletedTask;
            },
            new VerifyProgress(file)
        );
        Assert.Equal(steps[^1], rest[0]);
        Assert.Contains(found, f => f.Why.Contains("Store Elsewhere", StringComparison.Ordinal));
        File.Delete(file);
    }

    /// <summary>Makes a works anew, as whoever owns both databases.</summary>
    internal static async Task<Rebuilt> RebuildAsync(Database from, Database into, Action<string>? say = null) =>
        await new RebuildStore(from, into).RunAsync(
            DateTimeOffset.UtcNow,
            step =>
            {
                say?.Invoke(step);
                return Task.CompletedTask;
            },
            Cancel
        );
}
