using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Keralith.Core.Ledger;
using Keralith.Data;
using Keralith.Data.Local;
using Npgsql;
using NpgsqlTypes;

namespace Keralith.Bench;

/// <summary>Verifying a works of a chosen size, and making it anew from its ledger.</summary>
internal static class RecordBenchmarks
{
    private static readonly TimeSpan Verifying = TimeSpan.FromMinutes(15);
    private static readonly TimeSpan Rebuilding = TimeSpan.FromMinutes(10);

    /// <summary>The size at which making it anew has a target.</summary>
    private const int Rebuilt = 20_000;

    /// <summary>When the works began: nothing in it is older.</summary>
    private static readonly DateTimeOffset Begun = new(2000, 1, 1, 0, 0, 0, TimeSpan.Zero);

    public static async Task<bool> RunAsync(IReadOnlyList<int> sizes)
    {
        var state = Environment.GetEnvironmentVariable("KERALITH_STATE") ?? Path.GetTempPath();
        var cluster = LocalCluster.Start(Path.Combine(state, "bench", "server"));
        var met = true;
        try
        {
            foreach (var size in sizes)
            {
                var name = string.Create(CultureInfo.InvariantCulture, $"record_{size}");
                var clock = Stopwatch.StartNew();
                await cluster.EnsureDatabaseAsync(name, c => FillAsync(c, size));
                await using var database = new Database(cluster.ConnectionString(name));
                database.Migrate();
                Said(
                    $"{size:#,0} pieces, {size * BenchData.InspectionsEach:#,0} inspections, made or found",
                    clock,
                    null
                );
                clock.Restart();
                var found = await new VerifyStore(database).RunAsync(
                    DateTimeOffset.UtcNow,
                    CancellationToken.None,
                    StepAsync
                );
                met &= Said($"verified, {found.Count} found", clock, Verifying);
                if (size != Rebuilt)
                    continue;
                await cluster.DropDatabaseAsync($"{name}_anew");
                await cluster.EnsureDatabaseAsync($"{name}_anew", _ => Task.CompletedTask);
                await using var anew = new Database(cluster.ConnectionString($"{name}_anew"));
                clock.Restart();
                await new RebuildStore(database, anew).RunAsync(
                    DateTimeOffset.UtcNow,
                    StepAsync,
                    CancellationToken.None
                );
                found = await new VerifyStore(anew).RunAsync(DateTimeOffset.UtcNow, CancellationToken.None);
                met &= Said($"made anew and verified, {found.Count} found", clock, Rebuilding) && found.Count == 0;
            }
        }
        finally
        {
            cluster.Stop();
        }

        return met;
    }

    /// <summary>A register, an entry of the ledger for each of its inspections, and the rest told at once.</summary>
    private static async Task FillAsync(string connectionString, int pieces)
    {
        await BenchData.FillAsync(connectionString, pieces);
        await using var database = new Database(connectionString);
        await using (var told = database.Command("update site set catalogue_version = '1'"))
            await told.ExecuteNonQueryAsync();
        await new JudgeAgain(database).ByNewCatalogueAsync(Begun, CancellationToken.None);
        await SignAsync(database);
        await new RecordSeal(database).RunAsync(Begun, CancellationToken.None);
        await using var analyze = database.Command("vacuum analyze");
        analyze.CommandTimeout = 0;
        await analyze.ExecuteNonQueryAsync();
    }

    /// <summary>Entries as signing makes them, in the order they were signed.</summary>
    private static async Task SignAsync(Database database)
    {
        await using var reading = await database.OpenAsync(CancellationToken.None);
        await using var manner = new NpgsqlCommand("set timezone to 'UTC'", reading);
        await manner.ExecuteNonQueryAsync();
        await using var inspections = new NpgsqlCommand(
            """
            select p.mark, i.id, i.inspected_on, i.signed_at, i.case_document, i.verdict_document,
              record_image(to_jsonb(i) - array['case_document', 'verdict_document', 'own_document', 'counts_from', 'counts_seq'],
                array[]::text[], array[]::text[])::text as image,
              (select max(number) from ledger) as last, (select hash from ledger order by number desc limit 1) as hash
            from inspection i join piece p on p.id = i.piece_id
            order by i.signed_at, i.id
            """,
            reading
        )
        {
            CommandTimeout = 0,
        };
        await using var reader = await inspections.ExecuteReaderAsync();
        await using var writing = await database.OpenAsync(CancellationToken.None);
        await using var rowsWriting = await database.OpenAsync(CancellationToken.None);
        await using var entries = await writing.BeginBinaryImportAsync(
            "copy ledger (number, at, actor, kind, subject, data, previous, hash, form) from stdin (format binary)"
        );
        await using var rows = await rowsWriting.BeginBinaryImportAsync(
            "copy ledger_row (number, kind, key, image) from stdin (format binary)"
        );
        (long Number, byte[]? Hash) last = (0, null);
        var none = JsonDocument.Parse("{}").RootElement;
        while (await reader.ReadAsync())
        {
            last = last.Hash is null ? (reader.GetInt64(7), reader.GetFieldValue<byte[]>(8)) : last;
            var (id, image) = (reader.GetGuid(1), reader.GetString(6));
            var told = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"inspection\t{id}\t{image}")));
            using var asked = JsonDocument.Parse(reader.GetString(4));
            using var came = JsonDocument.Parse(reader.GetString(5));
            var entry = LedgerChain.Seal(
                last.Number + 1,
                reader.GetFieldValue<DateTimeOffset>(3),
                "inspector",
                new InspectionSigned(
                    id,
                    reader.GetFieldValue<DateOnly>(2),
                    "1",
                    none,
                    asked.RootElement,
                    came.RootElement,
                    "fit",
                    null,
                    null,
                    null,
                    [],
                    new Dictionary<string, string>(),
                    none,
                    [],
                    null,
                    null
                ),
                reader.GetString(0),
                last.Hash!,
                told
            );
            last = (entry.Number, entry.Hash);
            await entries.WriteRowAsync(
                CancellationToken.None,
                entry.Number,
                entry.At,
                entry.Actor,
                entry.Kind,
                entry.Subject,
                entry.Data,
                entry.Previous,
                entry.Hash,
                (short)entry.Form
            );
            await rows.StartRowAsync();
            await rows.WriteAsync(entry.Number, NpgsqlDbType.Bigint);
            await rows.WriteAsync("inspection", NpgsqlDbType.Text);
            await rows.WriteAsync(id.ToString(), NpgsqlDbType.Text);
            await rows.WriteAsync(image, NpgsqlDbType.Jsonb);
        }

        await entries.CompleteAsync();
        await rows.CompleteAsync();
    }

    private static Task StepAsync(string step) => Console.Error.WriteLineAsync($"{DateTime.Now:HH:mm:ss} {step}");

    private static bool Said(string what, Stopwatch clock, TimeSpan? target)
    {
        var met = target is null || clock.Elapsed <= target;
        var asked = target is { } most
            ? $" (target {most.TotalMinutes:0} min: {(met ? "met" : "NOT met")})"
            : string.Empty;
        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"{clock.Elapsed.TotalSeconds, 8:0} s  {what}{asked}")
        );
        return met;
    }
}
