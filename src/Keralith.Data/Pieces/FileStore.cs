using System.Security.Cryptography;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>What kind of file is attached.</summary>
public enum FileKind
{
    /// <summary>The maker's certificate of conformity.</summary>
    [Code("conformity")]
    Conformity,

    /// <summary>A proof test's certificate.</summary>
    [Code("proof-test")]
    ProofTest,

    /// <summary>A report of an inspection elsewhere.</summary>
    [Code("report")]
    Report,

    /// <summary>A picture of the piece.</summary>
    [Code("photo")]
    Photo,

    /// <summary>A picture of its marking.</summary>
    [Code("tag-photo")]
    TagPhoto,

    [Code("drawing")]
    Drawing,

    [Code("other")]
    Other,
}

/// <summary>A file, read and made safe, to be attached.</summary>
/// <param name="MediaType"><c>application/pdf</c> or <c>image/jpeg</c>.</param>
/// <param name="Small">A small picture; null where it is none.</param>
public sealed record NewFile(
    FileKind Kind,
    string Title,
    DateOnly? Dated,
    string MediaType,
    byte[] Bytes,
    byte[]? Small
);

/// <summary>A file attached to a piece.</summary>
public sealed record FileRow(
    Guid Id,
    FileKind Kind,
    string Title,
    DateOnly? Dated,
    string MediaType,
    int Size,
    bool HasSmall,
    DateTimeOffset At,
    string By
);

/// <summary>A picture of something found on a piece.</summary>
/// <param name="Id">The file's id.</param>
public sealed record FindingPhoto(Guid Id, string Part, string Criterion);

/// <summary>Certificates, reports and pictures of pieces.</summary>
public sealed class FileStore(Database database)
{
    public Task<List<FileRow>> OfAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => Of(t, piece), cancel);

    /// <summary>Whether a file is attached to a piece.</summary>
    internal static Asked<bool> IsOf(Trip trip, Guid file, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                "select 1 from piece_attachment where attachment_id = $1 and piece_id = $2"
            ).Positional(file, piece),
            r => r.GetInt32(0),
            rows => rows.Count > 0
        );

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<FileRow>> Of(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select a.id, a.kind, a.title, a.dated, a.media_type, length(a.bytes), a.small is not null, a.at, w.name
                from piece_attachment pa
                join attachment a on a.id = pa.attachment_id
                join person w on w.id = a.by_person
                where pa.piece_id = $1
                order by a.at desc
                """
            ).Positional(piece),
            r => new FileRow(
                r.GetGuid(0),
                Code.Parse<FileKind>(r.GetString(1)),
                r.GetString(2),
                r.IsDBNull(3) ? null : r.GetFieldValue<DateOnly>(3),
                r.GetString(4),
                r.GetInt32(5),
                r.GetBoolean(6),
                r.GetFieldValue<DateTimeOffset>(7),
                r.GetString(8)
            )
        );

    /// <summary>A file's bytes, or its small picture's; null when there is none.</summary>
    public async Task<(string MediaType, string Title, byte[] Bytes)?> ReadAsync(
        Guid id,
        bool small,
        CancellationToken cancel
    )
    {
        var found = await database
            .Command("select media_type, title, case when $2 then small else bytes end from attachment where id = $1")
            .Positional(id, small)
            .ListAsync(
                r => r.IsDBNull(2) ? default : (r.GetString(0), r.GetString(1), r.GetFieldValue<byte[]>(2)),
                cancel
            )
            .ConfigureAwait(false);
        return found.Count == 0 || found[0].Item3 is null ? null : found[0];
    }

    /// <summary>Attaches one file to pieces, all or none.</summary>
    public Task<Checked<Recorded>> AttachAsync(
        IReadOnlyCollection<Guid> pieces,
        NewFile file,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                if (AttachedFile.RefusalOf(pieces.Count, file.Title, file.Dated, session.By) is { } refusal)
                    return refusal;
                var today = await session
                    .ReadAsync(
                        "select coalesce(sum(length(bytes)), 0)::bigint from attachment where by_person = $1 and at > $2",
                        r => r.GetInt64(0),
                        stamp.Actor.Id,
                        session.Stamp.At.AddDays(-1)
                    )
                    .ConfigureAwait(false);
                if (AttachedFile.RefusalOfQuota(today[0] + file.Bytes.Length) is { } full)
                    return full;
                var marks = await session
                    .ReadAsync(
                        "select mark, id from piece where id = any($1) order by id for update",
                        r => (r.GetString(0), r.GetGuid(1)),
                        pieces.ToArray()
                    )
                    .ConfigureAwait(false);
                if (marks.Count != pieces.Distinct().Count())
                    return Refusals.NoSuchPiece;
                await InsertAsync(session, stamp.Submission, marks, file).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Keeps a picture of what a draft found on a part; signed, it goes with the record.</summary>
    public Task<Checked<Recorded>> AttachToDraftAsync(
        Guid draft,
        string part,
        string criterion,
        NewFile file,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var piece = await session
                    .ReadAsync(
                        "select p.mark, p.id from draft d join piece p on p.id = d.piece_id where d.id = $1 for update of d",
                        r => (r.GetString(0), r.GetGuid(1)),
                        draft
                    )
                    .ConfigureAwait(false);
                if (piece.Count == 0)
                    return Refusals.DraftTakesNoPictures;
                var taken = await session
                    .ReadAsync("select count(*)::int from draft_photo where draft_id = $1", r => r.GetInt32(0), draft)
                    .ConfigureAwait(false);
                if (AttachedFile.RefusalOfPhoto(taken[0], session.By) is { } refusal)
                    return refusal;
                await InsertAsync(session, stamp.Submission, piece, file).ConfigureAwait(false);
                await session
                    .WriteAsync(
                        "insert into draft_photo (draft_id, part, criterion, attachment_id) values ($1, $2, $3, $4)",
                        draft,
                        part,
                        criterion,
                        stamp.Submission
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Keeps a picture of what a piece was held for.</summary>
    internal static async Task AttachToHoldAsync(Session session, Piece piece, Guid hold, NewFile photo)
    {
        var file = Guid.CreateVersion7();
        await InsertAsync(session, file, [(piece.Mark, piece.Id)], photo).ConfigureAwait(false);
        await session
            .WriteAsync("insert into hold_photo (hold_id, attachment_id) values ($1, $2)", hold, file)
            .ConfigureAwait(false);
    }

    /// <summary>The pictures a draft holds, or a signed inspection: one id for both.</summary>
    public Task<List<FindingPhoto>> OfInspectionAsync(Guid inspection, CancellationToken cancel) =>
        database
            .Command(
                """
                select p.attachment_id, p.part, p.criterion
                from (select * from draft_photo where draft_id = $1 union all select * from inspection_photo where inspection_id = $1) p
                join attachment a on a.id = p.attachment_id order by a.at
                """
            )
            .Positional(inspection)
            .ListAsync(r => new FindingPhoto(r.GetGuid(0), r.GetString(1), r.GetString(2)), cancel);

    /// <summary>The pictures of a piece's holds, by hold.</summary>
    public async Task<ILookup<Guid, Guid>> OfHoldsAsync(Guid piece, CancellationToken cancel) =>
        (
            await database
                .Command(
                    "select hp.hold_id, hp.attachment_id from hold h join hold_photo hp on hp.hold_id = h.id where h.piece_id = $1"
                )
                .Positional(piece)
                .ListAsync(r => (Hold: r.GetGuid(0), File: r.GetGuid(1)), cancel)
                .ConfigureAwait(false)
        ).ToLookup(p => p.Hold, p => p.File);

    /// <summary>Keeps a file of pieces and says so in the ledger.</summary>
    private static async Task InsertAsync(
        Session session,
        Guid id,
        IReadOnlyCollection<(string Mark, Guid Id)> pieces,
        NewFile file
    )
    {
        var hash = SHA256.HashData(file.Bytes);
        await session
            .WriteAsync(
                """
                insert into attachment (id, kind, title, dated, media_type, bytes, small, sha256, at, by_person)
                values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
                """,
                id,
                Code.Of(file.Kind),
                file.Title.Trim(),
                file.Dated,
                file.MediaType,
                file.Bytes,
                file.Small,
                hash,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                "insert into piece_attachment (piece_id, attachment_id) select unnest($1::uuid[]), $2",
                pieces.Select(p => p.Id).ToArray(),
                id
            )
            .ConfigureAwait(false);
        var said = new FileAttached(
            id,
            Code.Of(file.Kind),
            file.Title.Trim(),
            file.Dated,
            Convert.ToHexStringLower(hash)
        );
        await LedgerStore
            .AppendAllAsync(session, [.. pieces.Select(p => (p.Mark, (LedgerRecord)said))])
            .ConfigureAwait(false);
    }

    /// <summary>
    /// Accepts the reports of gear taken over: in service until the report runs out, or its first inspection here.
    /// </summary>
    public Task<Checked<Recorded>> AcceptReportsAsync(
        IReadOnlyCollection<Guid> pieces,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPiecesAsync(pieces, async row =>
                {
                    var file = await session
                        .ReadAsync(
                            """
                            select a.id from piece_attachment pa join attachment a on a.id = pa.attachment_id
                            where pa.piece_id = $1 and a.kind = 'report'
                            order by a.at desc
                            limit 1
                            """,
                            r => r.GetGuid(0),
                            row.Id
                        )
                        .ConfigureAwait(false);
                    var beside = new Trip();
                    var known = PieceStore.Baselines(beside, row.Id);
                    var leave = PeopleStore.Authorisations(beside, session.Stamp.Actor.Id);
                    await session.AskAsync(beside).ConfigureAwait(false);
                    var outcome = RegisterActs.AcceptReport(
                        new(
                            row,
                            session.Site,
                            file.Count == 0 ? null : file[0],
                            known.Value.ToDictionary(b => b.Key, b => b.Value.Figure),
                            leave.Value
                        ),
                        session.By
                    );
                    if (outcome.Ok)
                        await session
                            .WriteAsync(
                                "insert into carried_accepted (piece_id, attachment_id, at, by_person) values ($1, $2, $3, $4)",
                                row.Id,
                                file[0],
                                stamp.At,
                                stamp.Actor.Id
                            )
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);
}
