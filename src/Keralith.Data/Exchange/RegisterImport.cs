using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;

namespace Keralith.Data.Exchange;

/// <summary>What becomes of a row.</summary>
public enum RowFate
{
    /// <summary>Lands as a new piece.</summary>
    New,

    /// <summary>Stands in the register already, just so.</summary>
    Unchanged,

    /// <summary>Does not land; its faults say why.</summary>
    Refused,
}

/// <summary>One row of a file and what becomes of it.</summary>
/// <param name="Number">Its number in the file, the heading row being 1.</param>
/// <param name="Mark">As written.</param>
/// <param name="Faults">What is wrong, by column.</param>
/// <param name="Remarks">What is left out or worth a look, in words.</param>
/// <param name="Entry">The piece; null when refused.</param>
public sealed record ImportRow(
    int Number,
    string Mark,
    RowFate Fate,
    IReadOnlyDictionary<string, string> Faults,
    IReadOnlyList<string> Remarks,
    PieceEntry? Entry
);

/// <summary>A file read against the register: each row's fate before anything lands.</summary>
/// <param name="Unknown">Headings that name no column; what stands under them is left out.</param>
public sealed record ImportPlan(IReadOnlyList<ImportRow> Rows, IReadOnlyList<string> Unknown)
{
    public int Count(RowFate fate) => Rows.Count(r => r.Fate == fate);
}

/// <summary>Brings rows into the register: all or none, or the good ones alone.</summary>
public sealed class RegisterImport(Database database, SiteStore sites, RegisterExport export)
{
    /// <summary>What each heading of a file means: its own name, the nearest there is, or nothing.</summary>
    public static IReadOnlyDictionary<string, string> Mapping(Table table) =>
        table
            .Headings.Where(h => h.Length > 0)
            .Distinct()
            .ToDictionary(h => h, h => RegisterColumns.Knows(h) ? h : RegisterColumns.Guess(h) ?? string.Empty);

    /// <summary>Reads every row and says what would become of it. Nothing is changed.</summary>
    /// <param name="mapping">The column each heading means; empty: left out.</param>
    public async Task<Checked<ImportPlan>> PlanAsync(
        Table table,
        IReadOnlyDictionary<string, string> mapping,
        Roles roles,
        CancellationToken cancel
    )
    {
        var columns = table
            .Headings.Select(h =>
                mapping.GetValueOrDefault(h) is { Length: > 0 } c && RegisterColumns.Knows(c) ? c : null
            )
            .ToList();
        if (columns.OfType<string>().GroupBy(c => c).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return new Refusal($"Two headings mean {twice.Key}: choose one of them.");
        foreach (var needed in new[] { "mark", "family", "store" })
        {
            if (!columns.Contains(needed))
                return new Refusal(
                    $"No heading means {needed}: every row needs it. Headings found: {string.Join(", ", table.Headings.Take(12))}."
                );
        }

        var stores = await RegisterExport.StoresAsync(sites, cancel).ConfigureAwait(false);
        var read = new List<(
            int Number,
            Dictionary<string, string> Cells,
            PieceEntry? Entry,
            Dictionary<string, string> Faults,
            List<string> Remarks
        )>(table.Rows.Count);
        foreach (var (number, line) in table.Rows)
        {
            var cells = new Dictionary<string, string>();
            for (var i = 0; i < columns.Count; i++)
            {
                if (columns[i] is { } column)
                    cells[column] = i < line.Count ? line[i] : string.Empty;
            }

            var (entry, faults, passedOver) = RegisterColumns.Read(cells, stores);
            var all = new Dictionary<string, string>(faults);
            if (line.Count > columns.Count && line.Skip(columns.Count).Any(c => c.Length > 0))
                all["mark"] =
                    $"The row has {line.Count} cells under {columns.Count} headings: is a comma left unquoted?";
            if (entry is not null && PieceEntry.RefusalOf([.. entry.Baselines.Values], roles) is { } provisional)
                all["baseline_basis"] = provisional;
            read.Add(
                (
                    number,
                    cells,
                    entry,
                    all,
                    passedOver.Select(c => $"{c} is not asked of this family and is left out").ToList()
                )
            );
        }

        var marks = read.Where(r => r.Entry is not null).Select(r => r.Entry!.Mark.Text).Distinct().ToArray();
        var known = new Dictionary<string, Dictionary<string, string>>();
        await foreach (var (mark, cells) in export.CellsAsync(marks, cancel).ConfigureAwait(false))
            known[mark] = cells;
        var retired = (
            await database
                .Command($"select mark, state from piece where mark = any($1) and state in {Fragments.Retired}")
                .Positional([marks])
                .ListAsync(r => (Mark: r.GetString(0), State: r.GetString(1)), cancel)
                .ConfigureAwait(false)
        ).ToDictionary(r => r.Mark, r => r.State);
        var serials = await SerialsAsync(read.Select(r => r.Entry).OfType<PieceEntry>(), cancel).ConfigureAwait(false);
        var seen = new Dictionary<string, int>();
        var rows = read.Select(r => Fate(r.Number, r.Cells, r.Entry, r.Faults, r.Remarks)).ToList();
        return new ImportPlan(rows, table.Headings.Where((h, i) => h.Length > 0 && columns[i] is null).ToList());

        ImportRow Fate(
            int number,
            Dictionary<string, string> cells,
            PieceEntry? entry,
            Dictionary<string, string> faults,
            List<string> remarks
        )
        {
            var mark = cells["mark"].Trim();
            var fate = RowFate.Refused;
            if (entry is not null && faults.Count == 0)
            {
                fate = RowFate.New;
                if (!seen.TryAdd(entry.Mark.Text, number))
                    faults["mark"] = $"{entry.Mark} stands in row {seen[entry.Mark.Text]} too.";
                else if (retired.TryGetValue(entry.Mark.Text, out var state))
                    faults["mark"] = RegisterActs.RefusalOfMark(entry.Mark.Text, Code.Parse<PieceState>(state))!.Words;
                else if (known.TryGetValue(entry.Mark.Text, out var there))
                {
                    var mine = RegisterColumns.Write(entry, stores);
                    var differs = cells
                        .Keys.Where(c =>
                            !remarks.Exists(m => m.StartsWith($"{c} ", StringComparison.Ordinal))
                            && mine.GetValueOrDefault(c, string.Empty) != there.GetValueOrDefault(c, string.Empty)
                        )
                        .ToList();
                    foreach (var column in differs)
                        faults[column] =
                            $"{entry.Mark} is registered already, with {(there.GetValueOrDefault(column) is { } value ? $"\"{value}\"" : "nothing")} here. A file only adds; change a piece on its own page.";
                    fate = RowFate.Unchanged;
                }
                else if (
                    entry is { Serial: { } serial, Maker: { } maker }
                    && serials.TryGetValue(Serial(maker, serial), out var other)
                )
                    remarks.Add($"the same maker and serial stand on {other}: check both markings");
                if (fate == RowFate.New && entry is { Serial: { } own, Maker: { } by })
                    serials.TryAdd(Serial(by, own), entry.Mark.Text);
                if (faults.Count > 0)
                    fate = RowFate.Refused;
            }

            return new(number, mark, fate, faults, remarks, fate == RowFate.Refused ? null : entry);
        }
    }

    /// <summary>Lands what is new of a plan, in one transaction.</summary>
    /// <param name="partial">Whether the good rows land though others are refused.</param>
    public async Task<Checked<int>> LandAsync(
        ImportPlan plan,
        bool partial,
        Stamp stamp,
        IProgress<int>? progress,
        CancellationToken cancel,
        bool dry = false
    )
    {
        if (!stamp.Actor.Roles.May(Right.Register))
            return Refusal.Forbidden();
        if (!partial && plan.Count(RowFate.Refused) is > 0 and var refused)
            return new Refusal($"{refused} {(refused == 1 ? "row is" : "rows are")} refused; nothing landed.");
        var landing = plan
            .Rows.Where(r => r.Fate == RowFate.New)
            .Select(r => (Guid.CreateVersion7(), r.Entry!))
            .ToList();
        if (landing.Count == 0)
            return 0;
        var result = await Session
            .RunAsync(
                database,
                stamp,
                async session =>
                    await PieceWriter.RegisterAsync(session, landing, progress).ConfigureAwait(false)
                    ?? (dry ? WouldLand : null),
                cancel
            )
            .ConfigureAwait(false);
        if (result.Refusal == WouldLand)
            return landing.Count;
        return result.Ok
            ? result.Value.Repeated
                ? 0
                : landing.Count
            : result.Refusal!;
    }

    /// <summary>Told of what would land, and takes it back: a rehearsal refuses what landing refuses.</summary>
    private static readonly Refusal WouldLand = new("It would land.");

    /// <summary>The marks of other pieces by maker and serial.</summary>
    private async Task<Dictionary<string, string>> SerialsAsync(
        IEnumerable<PieceEntry> entries,
        CancellationToken cancel
    )
    {
        var wanted = entries.Select(e => e.Serial?.ToUpperInvariant()).OfType<string>().Distinct().ToArray();
        var found = await database
            .Command("select coalesce(maker, ''), serial, mark from piece where upper(serial) = any($1)")
            .Positional([wanted])
            .ListAsync(r => (Key: Serial(r.GetString(0), r.GetString(1)), Mark: r.GetString(2)), cancel)
            .ConfigureAwait(false);
        var map = new Dictionary<string, string>();
        foreach (var (key, mark) in found)
            map.TryAdd(key, mark);
        return map;
    }

    private static string Serial(string maker, string serial) => $"{maker}\n{serial}".ToUpperInvariant();
}
