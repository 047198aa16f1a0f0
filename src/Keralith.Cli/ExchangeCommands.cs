using Keralith.Core.People;
using Keralith.Data;
using Keralith.Data.Exchange;

namespace Keralith.Cli;

/// <summary>Registers and records in and out as files.</summary>
internal static class ExchangeCommands
{
    public static async Task<int> ImportAsync(Database database, string file, bool dry, bool partial)
    {
        if (!File.Exists(file))
            throw new UsageException($"There is no file {file}.");
        if (new FileInfo(file).Length > Table.MostBytes)
            throw new UsageException($"The file is larger than {Table.MostBytes / 1024 / 1024} MB. Split it.");
        var table = Table.Read(await File.ReadAllBytesAsync(file), CancellationToken.None);
        if (!table.Ok)
            throw new UsageException(table.Fault!);
        var sites = new SiteStore(database);
        var import = new RegisterImport(database, sites, new(database, sites));
        var who = await WhoAsync(database);
        var plan = await import.PlanAsync(
            table.Value,
            RegisterImport.Mapping(table.Value),
            who.Roles,
            CancellationToken.None
        );
        if (!plan.Ok)
            throw new UsageException(plan.Fault!);
        var (fresh, same, refused) = (
            plan.Value.Count(RowFate.New),
            plan.Value.Count(RowFate.Unchanged),
            plan.Value.Count(RowFate.Refused)
        );
        if (plan.Value.Unknown.Count > 0)
            await Console.Error.WriteLineAsync($"Left out, no such column: {string.Join(", ", plan.Value.Unknown)}");
        await using (var errors = Console.OpenStandardError())
        {
            if (refused > 0)
                await ImportErrors.WriteAsync(errors, plan.Value, CancellationToken.None);
        }

        var landed = 0;
        if (refused == 0 || partial)
        {
            var progress = fresh >= 2000 ? new Progress<int>(n => Console.Error.Write($"\r{n} of {fresh}")) : null;
            var result = await import.LandAsync(
                plan.Value,
                partial,
                new(who, DateTimeOffset.UtcNow, Guid.CreateVersion7()),
                progress,
                CancellationToken.None,
                dry
            );
            if (!result.Ok)
                throw new UsageException(result.Fault!);
            landed = result.Value;
        }

        Console.WriteLine(
            $"{plan.Value.Rows.Count} rows: {(dry ? $"{(refused == 0 || partial ? landed : fresh)} would land" : $"{landed} landed")}, {same} unchanged, {refused} refused{(refused > 0 && landed == 0 && !dry ? "; nothing landed" : string.Empty)}."
        );
        return refused > 0 ? 2 : 0;
    }

    /// <param name="what">register, inspections or ledger.</param>
    public static async Task<int> ExportAsync(Database database, string what, bool allColumns)
    {
        await using var output = Console.OpenStandardOutput();
        var cancel = CancellationToken.None;
        switch (what)
        {
            case "inspections":
                await new RecordExport(database).InspectionsAsync(output, cancel);
                return 0;
            case "ledger":
                await new RecordExport(database).LedgerAsync(output, cancel);
                return 0;
            default:
                var export = new RegisterExport(database, new(database));
                var headings = await export.HeadingsAsync(allColumns, cancel);
                await TableWriter.CsvAsync(output, headings, export.RowsAsync(headings, null, cancel), cancel);
                return 0;
        }
    }

    /// <summary>In whose name rows land: of KERALITH_USER, or of the first administrator.</summary>
    internal static async Task<Actor> WhoAsync(Database database)
    {
        var wanted = Environment.GetEnvironmentVariable("KERALITH_USER");
        var all = await new PeopleStore(database).AllAsync(CancellationToken.None);
        return (wanted is null ? all.Where(p => p.Roles.Has(Role.Admin)) : all.Where(p => p.Username == wanted))
            .OrderBy(p => p.Username, StringComparer.Ordinal)
            .FirstOrDefault()
            ?? throw new UsageException(
                wanted is null
                    ? "Nobody is an administrator here; name a person in KERALITH_USER."
                    : $"There is nobody {wanted} here."
            );
    }
}
