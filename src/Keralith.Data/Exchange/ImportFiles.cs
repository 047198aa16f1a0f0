using System.Text.Json;
using Keralith.Core.People;
using Keralith.Core.Register;

namespace Keralith.Data.Exchange;

/// <summary>A file sent to be imported and how far it has come.</summary>
/// <param name="Mapping">The column each heading means; empty: left out.</param>
/// <param name="State"><c>waiting</c>, <c>landing</c>, <c>landed</c> or <c>refused</c>.</param>
/// <param name="Done">Rows written so far.</param>
/// <param name="Total">Rows to write.</param>
/// <param name="Outcome">What came of it, in words.</param>
public sealed record ImportFile(
    Guid Id,
    string Name,
    IReadOnlyDictionary<string, string> Mapping,
    DateTimeOffset At,
    string By,
    string State,
    int Done,
    int Total,
    string? Outcome
);

/// <summary>Files sent to be imported: kept between preview and landing, so that any node can go on.</summary>
public sealed class ImportFiles(Database database, RegisterImport import)
{
    /// <summary>How long a file waits to be landed.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromDays(7);

    /// <summary>Keeps a file; the same submission twice is one file. Files nobody landed for a week are thrown away.</summary>
    public async Task<Checked<Recorded>> KeepAsync(
        string name,
        byte[] bytes,
        IReadOnlyDictionary<string, string> mapping,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        await database
            .Command("delete from import_file where at < $1")
            .Positional(stamp.At - Kept)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        var waiting = await database
            .Command(
                "select coalesce(sum(length(bytes)), 0)::bigint from import_file where by_person = $1 and id <> $2"
            )
            .Positional(stamp.Actor.Id, stamp.Submission)
            .ListAsync(r => r.GetInt64(0), cancel)
            .ConfigureAwait(false);
        if (AttachedFile.RefusalOfWaiting(waiting[0] + bytes.Length) is { } refusal)
            return refusal;
        await database
            .Command(
                "insert into import_file (id, name, bytes, mapping, at, by_person) values ($1, $2, $3, $4::jsonb, $5, $6) on conflict do nothing"
            )
            .Positional(stamp.Submission, name, bytes, JsonSerializer.Serialize(mapping), stamp.At, stamp.Actor.Id)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        return new Recorded(Repeated: false);
    }

    /// <summary>A file of this person, or null.</summary>
    public Task<ImportFile?> FindAsync(Guid id, Guid person, CancellationToken cancel) =>
        database
            .Command(
                """
                select f.id, f.name, f.mapping::text as mapping, f.at, w.name as by_name, f.state, f.done, f.total, f.outcome
                from import_file f join person w on w.id = f.by_person where f.id = $1 and f.by_person = $2
                """
            )
            .Positional(id, person)
            .FirstAsync(
                r => new ImportFile(
                    r.Get<Guid>("id"),
                    r.Get<string>("name"),
                    JsonSerializer.Deserialize<Dictionary<string, string>>(r.Get<string>("mapping"))!,
                    r.Get<DateTimeOffset>("at"),
                    r.Get<string>("by_name"),
                    r.Get<string>("state"),
                    r.Get<int>("done"),
                    r.Get<int>("total"),
                    r.TextOrNull("outcome")
                ),
                cancel
            );

    /// <summary>Says anew what each heading means.</summary>
    public Task MapAsync(Guid id, IReadOnlyDictionary<string, string> mapping, CancellationToken cancel) =>
        database
            .Command("update import_file set mapping = $2::jsonb where id = $1 and state in ('waiting', 'refused')")
            .Positional(id, JsonSerializer.Serialize(mapping))
            .RunAsync(cancel);

    /// <summary>Reads a kept file against the register.</summary>
    public async Task<Checked<ImportPlan>> PlanAsync(ImportFile file, Roles roles, CancellationToken cancel)
    {
        var bytes = (
            await database
                .Command("select bytes from import_file where id = $1")
                .Positional(file.Id)
                .ListAsync(r => r.GetFieldValue<byte[]>(0), cancel)
                .ConfigureAwait(false)
        )[0];
        var table = Table.Read(bytes, cancel);
        return table.Ok
            ? await import.PlanAsync(table.Value, file.Mapping, roles, cancel).ConfigureAwait(false)
            : new Refusal(table.Fault!);
    }

    /// <summary>
    /// Marks a file as landing; false when it is landing or landed already. One that has shown no progress for a minute
    /// may be begun again.
    /// </summary>
    public async Task<bool> BeginAsync(Guid id, bool partial, DateTimeOffset now, CancellationToken cancel) =>
        await database
            .Command(
                """
                update import_file set state = 'landing', partial = $2, done = 0, total = 0, outcome = null, at = $3
                where id = $1 and (state in ('waiting', 'refused') or (state = 'landing' and at < $4))
                """
            )
            .Positional(id, partial, now, now - TimeSpan.FromMinutes(1))
            .RunAsync(cancel)
            .ConfigureAwait(false) == 1;

    /// <summary>Lands a file marked as landing, saying how far it is.</summary>
    public async Task LandAsync(ImportFile file, bool partial, Stamp stamp, CancellationToken cancel)
    {
        var plan = await PlanAsync(file, stamp.Actor.Roles, cancel).ConfigureAwait(false);
        Checked<int> landed;
        if (!plan.Ok)
            landed = new Refusal(plan.Fault!);
        else
        {
            var total = plan.Value.Count(RowFate.New);
            await SayAsync(file.Id, 0, total, cancel).ConfigureAwait(false);
            landed = await import
                .LandAsync(
                    plan.Value,
                    partial,
                    stamp,
                    new Telling(n => SayAsync(file.Id, n, total, CancellationToken.None)),
                    cancel
                )
                .ConfigureAwait(false);
        }

        var outcome = landed.Ok
            ? $"{landed.Value} {(landed.Value == 1 ? "piece" : "pieces")} landed{(plan.Value.Count(RowFate.Refused) is > 0 and var left ? $", {left} rows left out" : string.Empty)}."
            : landed.Fault!;
        await database
            .Command("update import_file set state = $2, outcome = $3, done = total where id = $1")
            .Positional(file.Id, landed.Ok ? "landed" : "refused", outcome)
            .RunAsync(cancel)
            .ConfigureAwait(false);
    }

    private Task SayAsync(Guid id, int done, int total, CancellationToken cancel) =>
        database
            .Command("update import_file set done = $2, total = $3, at = greatest(at, now()) where id = $1")
            .Positional(id, done, total)
            .RunAsync(cancel);

    /// <summary>Tells as rows are written, in the writer's own time, every so often.</summary>
    private sealed class Telling(Func<int, Task> say) : IProgress<int>
    {
        private int _last;

        public void Report(int value)
        {
            if (value - _last < 1000)
                return;
            _last = value;
            say(value).GetAwaiter().GetResult();
        }
    }
}
