using System.Runtime.CompilerServices;
using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>
/// One command: one connection, one transaction, once per client-made id, whole or not at all. It holds the site as it
/// stands for as long as the command
/// runs, locks what it changes before it reads it, asks Core, writes the outcome and appends the ledger. Nothing in it
/// asks the pool again.
/// </summary>
internal sealed class Session
{
    /// <summary>Any number; the same for all: shared by commands, held alone by a change of how the site works.</summary>
    private const long SiteLock = 0x73697465;

    private readonly NpgsqlTransaction _transaction;
    private SiteSet? _sites;
    private Site? _site;
    private Signer? _by;

    private Session(NpgsqlTransaction transaction, Stamp stamp, CancellationToken cancel)
    {
        _transaction = transaction;
        Stamp = stamp;
        Cancel = cancel;
    }

    /// <summary>Who acts and when; dated by the database where the command asks for that.</summary>
    public Stamp Stamp { get; private set; }

    public CancellationToken Cancel { get; }

    /// <summary>The part of what it writes that no entry has told yet: each entry begins the next.</summary>
    public int Part { get; set; }

    /// <summary>The sites of the works, as nobody changes them while the command runs.</summary>
    /// <exception cref="InvalidOperationException">They are not set up.</exception>
    public SiteSet Sites =>
        _sites ?? throw new InvalidOperationException("The site is not set up: run demo, or migrate and set it up.");

    /// <summary>Whether the works is not set up.</summary>
    public bool HasNoSite => _sites is null;

    /// <summary>The site by whose rules is decided: of the piece under the hand, the first before there is one.</summary>
    /// <exception cref="InvalidOperationException">It is not set up.</exception>
    public Site Site => _site ?? Sites.Home;

    /// <summary>Decides by the rules of a site from here on, and dates by its day.</summary>
    public void At(int site) => (_site, _by) = (Sites.Of(site), null);

    /// <summary>Who acts, with the site's day.</summary>
    public Signer By =>
        _by ??= new(
            Stamp.Actor.Id,
            Stamp.Actor.Username,
            Stamp.Actor.Name,
            Stamp.Actor.Roles,
            Stamp.At,
            Site.DayOf(Stamp.At)
        );

    /// <summary>Carries out a command.</summary>
    /// <param name="work">The command; returns why it is refused, or null when it went well.</param>
    public static Task<Checked<Recorded>> RunAsync(
        Database database,
        Stamp stamp,
        Func<Session, Task<Refusal?>> work,
        CancellationToken cancel,
        [CallerFilePath] string store = "",
        [CallerMemberName] string act = ""
    ) => RunAsync(database, stamp, "pg_advisory_xact_lock_shared", work, ActOf(store, act), cancel);

    /// <summary>Carries out a change of how the site works, with no other command under way.</summary>
    public static Task<Checked<Recorded>> RunAloneAsync(
        Database database,
        Stamp stamp,
        Func<Session, Task<Refusal?>> work,
        CancellationToken cancel,
        [CallerFilePath] string store = "",
        [CallerMemberName] string act = ""
    ) => RunAsync(database, stamp, "pg_advisory_xact_lock", work, ActOf(store, act), cancel);

    /// <summary>Carries out a change of how one site works, by its rules and its day, with no other command under way.</summary>
    /// <param name="site">Its number; refused where there is no such site.</param>
    public static Task<Checked<Recorded>> RunAtSiteAsync(
        Database database,
        int site,
        Stamp stamp,
        Func<Session, Task<Refusal?>> work,
        CancellationToken cancel,
        [CallerFilePath] string store = "",
        [CallerMemberName] string act = ""
    ) =>
        RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (session.Sites.Find(site) is null)
                    return Refusals.NoSuchSite;
                session.At(site);
                return await work(session).ConfigureAwait(false);
            },
            cancel,
            store,
            act
        );

    /// <summary>An act is named by the store and the member that carries it out.</summary>
    private static string ActOf(string store, string act) => $"{Path.GetFileNameWithoutExtension(store)}.{act}";

    private static async Task<Checked<Recorded>> RunAsync(
        Database database,
        Stamp stamp,
        string siteLock,
        Func<Session, Task<Refusal?>> work,
        string act,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        var session = new Session(transaction, stamp, cancel);
        var begun = await session.BeginAsync(siteLock, act).ConfigureAwait(false);
        if (!begun.Ok)
            return begun.Refusal!;
        if (begun.Value.Repeated)
        {
            // Recorded before, perhaps on one server alone: something of its own written behind it is confirmed no sooner.
            await session.WriteAsync("select pg_logical_emit_message(true, 'keralith', '')").ConfigureAwait(false);
            await transaction.CommitDurablyAsync().ConfigureAwait(false);
            return begun.Value;
        }

        if (await work(session).ConfigureAwait(false) is { } refusal)
            return refusal;
        await transaction.CommitDurablyAsync().ConfigureAwait(false);
        return new Recorded(Repeated: false);
    }

    /// <summary>Takes the site's lock and the submission's id, and reads the site behind the lock, in one trip.</summary>
    /// <returns>Whether this submission was recorded before; a refusal where its id belongs to something else.</returns>
    private async Task<Checked<Recorded>> BeginAsync(string siteLock, string act)
    {
        var trip = new Trip();
        trip.All(new NpgsqlBatchCommand($"select 1 from {siteLock}($1)").Positional(SiteLock), r => r.GetInt32(0));
        var first = trip.All(
            new NpgsqlBatchCommand(
                """
                insert into submission (id, at, act, person_id, content) values ($1, $2, $3, $4, $5)
                on conflict do nothing
                returning 1
                """
            ).Positional(Stamp.Submission, Stamp.At, act, Stamp.Actor.Id, Stamp.Content),
            r => r.GetInt32(0)
        );
        var mine = trip.Ask(
            new NpgsqlBatchCommand(
                """
                select act = $2 and person_id = $3 and content is not distinct from $4::bytea as same, clock_timestamp() as now,
                  exists (select from draft where id = $1) as drafted
                from submission
                where id = $1
                """
            ).Positional(Stamp.Submission, act, Stamp.Actor.Id, Stamp.Content),
            r =>
                (
                    Same: r.ValueOrNull<bool>("same") == true,
                    Drafted: r.Get<bool>("drafted"),
                    Now: r.Get<DateTimeOffset>("now")
                ),
            rows => rows[0]
        );
        var sites = SiteStore.Sites(trip);
        await trip.MakeAsync(_transaction.Connection!, Cancel).ConfigureAwait(false);
        _sites = sites.Value;
        if (Stamp.ByDatabase)
            Stamp = Stamp with { At = mine.Value.Now };
        return mine.Value.Drafted || (first.Value.Count == 0 && !mine.Value.Same)
            ? Refusals.IdOfAnother
            : new Recorded(Repeated: first.Value.Count == 0);
    }

    /// <summary>
    /// How long one statement of an act may take. A recall or another rule book at a large works takes longer than a page may
    /// be waited for; cut off, nothing of it stands, and it could never be done. Only the wait for its turn is as short as a page's.
    /// </summary>
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(10);

    /// <summary>A command of this transaction.</summary>
    public NpgsqlCommand Command(string sql)
    {
        var command = _transaction.Command(sql);
        command.CommandTimeout = (int)Longest.TotalSeconds;
        return command;
    }

    /// <summary>Writes something.</summary>
    /// <returns>How many rows it touched.</returns>
    public Task<int> WriteAsync(string sql, params ReadOnlySpan<object?> values) =>
        Command(sql).Positional(values).RunAsync(Cancel);

    /// <summary>Reads rows.</summary>
    public Task<List<T>> ReadAsync<T>(string sql, Func<NpgsqlDataReader, T> row, params ReadOnlySpan<object?> values) =>
        Command(sql).Positional(values).ListAsync(row, Cancel);

    /// <summary>Asks several questions in one round trip.</summary>
    public Task AskAsync(Trip trip) => trip.MakeAsync(_transaction.Connection!, Cancel, Longest);

    /// <summary>Asks one question.</summary>
    public async Task<T> AskAsync<T>(Func<Trip, Asked<T>> ask)
    {
        var trip = new Trip();
        var asked = ask(trip);
        await AskAsync(trip).ConfigureAwait(false);
        return asked.Value;
    }

    /// <summary>Begins a copy of many rows into a table.</summary>
    public async Task<NpgsqlBinaryImporter> CopyAsync(string sql)
    {
        var copy = await _transaction.Connection!.BeginBinaryImportAsync(sql, Cancel).ConfigureAwait(false);
        copy.Timeout = Longest;
        return copy;
    }

    /// <summary>
    /// The piece, locked until the transaction ends; null when there is none. Locked first and read then: what others
    /// committed while this waited is seen.
    /// </summary>
    /// <param name="beside">What else is asked behind the lock, on the same trip; null: nothing.</param>
    public async Task<Piece?> LockAsync(Guid piece, Trip? beside = null)
    {
        var locked = (await LockAllAsync([piece], beside).ConfigureAwait(false)).FirstOrDefault();
        if (locked is not null)
            At(locked.SiteId);
        return locked;
    }

    /// <summary>Pieces, locked in one order by all, so that two selections never wait for each other; in that order.</summary>
    public async Task<List<Piece>> LockAllAsync(IEnumerable<Guid> pieces, Trip? beside = null)
    {
        var wanted = new Named([.. pieces.Distinct()]);
        var trip = new Trip();
        trip.All(
            new NpgsqlBatchCommand($"select 1 from piece where id {wanted.Is} order by id for update").Positional(
                wanted.Value
            ),
            r => r.GetInt32(0)
        );
        var locked = trip.All(
            new NpgsqlBatchCommand(
                $"select {PieceRows.Columns} from piece p join store s on s.id = p.store_id where p.id {wanted.Is} order by p.id"
            ).Positional(wanted.Value),
            PieceRows.From
        );
        if (beside is not null)
            trip.Add(beside);
        await AskAsync(trip).ConfigureAwait(false);
        return locked.Value;
    }

    /// <summary>One act on a piece: locks it, checks the version, asks Core, writes the outcome.</summary>
    /// <param name="version">The version the act was made on; null for what anybody may do whatever has changed
    /// meanwhile.</param>
    /// <param name="act">Reads what else bears on it, asks Core and writes the fact.</param>
    public async Task<Refusal?> OnPieceAsync(
        Guid piece,
        int? version,
        Func<Piece, Task<Checked<PieceOutcome>>> act,
        Trip? beside = null
    )
    {
        if (await LockAsync(piece, beside).ConfigureAwait(false) is not { } locked)
            return Refusals.NoSuchPiece;
        if (version is { } seen && locked.Version != seen)
            return Refusals.PieceChanged;
        return await ApplyAsync(locked, act).ConfigureAwait(false);
    }

    /// <summary>The same act on several pieces, all or none.</summary>
    public async Task<Refusal?> OnPiecesAsync(
        IReadOnlyCollection<Guid> pieces,
        Func<Piece, Task<Checked<PieceOutcome>>> act
    )
    {
        var locked = await LockAllAsync(pieces).ConfigureAwait(false);
        if (locked.Count != pieces.Distinct().Count())
            return Refusals.NoSuchPiece;
        foreach (var piece in locked)
        {
            if (await ApplyAsync(piece, act).ConfigureAwait(false) is { } refusal)
                return refusal;
        }

        return null;
    }

    /// <summary>The same act on each of several pieces: what is refused of one stops that one, not the rest.</summary>
    /// <param name="refused">Told what was refused, piece by piece.</param>
    /// <returns>A refusal where not one was let: all of the reasons together.</returns>
    public async Task<Refusal?> OnEachAsync(
        IReadOnlyCollection<Guid> pieces,
        Func<Piece, Task<Checked<PieceOutcome>>> act,
        Action<Refusal> refused
    )
    {
        var locked = await LockAllAsync(pieces).ConfigureAwait(false);
        if (locked.Count != pieces.Distinct().Count())
            return Refusals.NoSuchPiece;
        var reasons = new List<Refusal>();
        foreach (var piece in locked)
        {
            if (await ApplyAsync(piece, act).ConfigureAwait(false) is { } refusal)
                reasons.Add(refusal);
        }

        if (reasons.Count == locked.Count)
            return Refusal.Together(reasons);
        reasons.ForEach(refused);
        return null;
    }

    /// <summary>Asks an act of a locked piece and writes its outcome: hold, what is kept on the piece, ledger.</summary>
    private async Task<Refusal?> ApplyAsync(Piece piece, Func<Piece, Task<Checked<PieceOutcome>>> act)
    {
        At(piece.SiteId);
        var outcome = await act(piece).ConfigureAwait(false);
        if (!outcome.Ok)
            return outcome.Refusal;
        if (outcome.Value.Hold is { } hold)
            await this.HoldAsync(piece.Id, hold, inspection: outcome.Value.Judged).ConfigureAwait(false);
        await this.DeriveAsync(piece, outcome.Value.State).ConfigureAwait(false);
        await LedgerStore
            .AppendAllAsync(
                this,
                [(piece.Mark, outcome.Value.Record), .. outcome.Value.Beside.Select(r => (piece.Mark, r))]
            )
            .ConfigureAwait(false);
        return null;
    }

    /// <summary>Appends one entry. Called last, so that appending is serial for as short as can be.</summary>
    public Task LedgerAsync(LedgerRecord record, string subject) =>
        LedgerStore.AppendAllAsync(this, [(subject, record)]);
}
