using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Quantities;
using Keralith.Core.Register;

namespace Keralith.Data;

/// <summary>A piece on its way into the register, and what it still lacks.</summary>
/// <param name="Sized">Its sizes and end fitting, as far as stated: figures are shared only by what is made alike.</param>
/// <param name="Evidence">The report's name; null where none is on record.</param>
/// <param name="Missing">Measures without a figure when new.</param>
public sealed record TakenOver(
    Guid Id,
    string Mark,
    string Family,
    string? Maker,
    string? Model,
    string Sized,
    PieceState State,
    bool TagRead,
    string? Evidence,
    DateOnly? LastPeriodic,
    bool HasFile,
    bool Accepted,
    bool Inspected,
    IReadOnlyList<BaselineKey> Missing
);

/// <summary>Figures when new that a model lacks.</summary>
/// <param name="Criterion">The measure.</param>
/// <param name="PartKind">The part, whichever leg.</param>
/// <param name="Pieces">The pieces that lack it.</param>
/// <param name="Twin">A piece of the same maker and model that has it measured when new; null where there is none.</param>
public sealed record MissingFigure(
    string Family,
    string? Maker,
    string? Model,
    string Sized,
    string Criterion,
    string PartKind,
    IReadOnlyList<TakenOver> Pieces,
    string? Twin,
    BaselineFigure? TwinFigure
);

/// <summary>Taking over a store: reports, markings and figures of gear that was there before the records were.</summary>
public sealed class TakeOverStore(Database database)
{
    private static readonly string[] AlikeBy =
    [
        "size",
        "ropeSize",
        "width",
        "circumference",
        "capacity",
        "pinSize",
        "grade",
        "endFitting",
        "medium",
        "falls",
        "gauge",
    ];

    /// <summary>A part's kind: the same on every leg.</summary>
    public static string KindOf(string part) =>
        part.StartsWith("leg-", StringComparison.Ordinal)
            ? part.IndexOf('/', StringComparison.Ordinal) is > 0 and var at
                ? $"leg{part[at..]}"
                : "leg"
            : part;

    /// <summary>
    /// Every piece that came with a report, whose marking nobody has read, or that lacks a figure when new; by mark.
    /// </summary>
    public async Task<List<TakenOver>> ListAsync(CancellationToken cancel)
    {
        var left = await LeftAsync(cancel).ConfigureAwait(false);
        if (left.Length == 0)
            return [];
        return await database
            .Command(
                $"""
                select p.id, p.mark, p.family, p.maker, p.model, p.state, p.tag_read, p.attributes::text as attributes, c.evidence, c.last_periodic,
                  exists (select from piece_attachment pa join attachment a on a.id = pa.attachment_id
                    where pa.piece_id = p.id and a.kind = 'report') as has_file,
                  exists (select from carried_accepted a where a.piece_id = p.id) as accepted,
                  exists (select from standing_inspection i where i.piece_id = p.id and i.complete
                    and i.verdict in {Fragments.Clean} and i.kind in {Fragments.Full}) as inspected,
                  array(select b.part || ' ' || b.criterion from baseline b where b.piece_id = p.id) as figures
                from piece p left join carried_over c on c.piece_id = p.id
                where p.id = any($1)
                order by p.mark
                """
            )
            .Positional([left])
            .ListAsync(
                r =>
                {
                    var gear = PieceRows.GearOf(r.Get<string>("family"), r.Get<string>("attributes"));
                    return new TakenOver(
                        r.Get<Guid>("id"),
                        r.Get<string>("mark"),
                        gear.Family.Code,
                        r.TextOrNull("maker"),
                        r.TextOrNull("model"),
                        SizedAs(gear),
                        Code.Parse<PieceState>(r.Get<string>("state")),
                        r.Get<bool>("tag_read"),
                        r.TextOrNull("evidence"),
                        r.ValueOrNull<DateOnly>("last_periodic"),
                        r.Get<bool>("has_file"),
                        r.Get<bool>("accepted"),
                        r.Get<bool>("inspected"),
                        MissingOf(gear, r.Get<string[]>("figures"))
                    );
                },
                cancel
            )
            .ConfigureAwait(false);
    }

    /// <summary>
    /// The pieces that came with a report, whose marking nobody has read, or that lack a figure when new. Which figures a piece
    /// needs goes by what it is made like: asked make by make, however many pieces there are of it.
    /// </summary>
    private async Task<Guid[]> LeftAsync(CancellationToken cancel)
    {
        var makes = await database
            .Command(
                $"""
                select family, attributes, figures, known, array_agg(id) as ids
                from (
                  select p.id, p.family, p.attributes::text as attributes, p.tag_read and c.piece_id is null as known,
                    coalesce(f.figures, array[]::text[]) as figures
                  from piece p
                  left join carried_over c on c.piece_id = p.id and c.evidence is not null
                  left join (
                    select piece_id, array_agg(distinct part || ' ' || criterion) as figures from baseline group by piece_id) f
                    on f.piece_id = p.id
                  where p.state not in {Fragments.Retired}) p
                group by family, attributes, figures, known
                """
            )
            .ListAsync(
                r =>
                    (
                        Ids: r.Get<Guid[]>("ids"),
                        IsLeft: !r.Get<bool>("known")
                            || MissingOf(
                                PieceRows.GearOf(r.Get<string>("family"), r.Get<string>("attributes")),
                                r.Get<string[]>("figures")
                            ).Count > 0
                    ),
                cancel
            )
            .ConfigureAwait(false);
        return [.. makes.Where(m => m.IsLeft).SelectMany(m => m.Ids)];
    }

    /// <summary>Measures of a piece without a figure when new.</summary>
    /// <param name="figures">The part and the criterion of each it has.</param>
    private static List<BaselineKey> MissingOf(Core.Gear.GearPiece gear, IEnumerable<string> figures)
    {
        var has = figures.ToHashSet();
        return PieceEntryReader
            .BaselinesOf(gear)
            .Select(b => new BaselineKey(b.Part.Path, b.Criterion.Id))
            .Where(k => !has.Contains($"{k.Part} {k.Criterion}"))
            .ToList();
    }

    /// <summary>
    /// What figures are missing, model by model, with a twin where there is one: gear of a maker or a model that nobody knows has
    /// none.
    /// </summary>
    public async Task<List<MissingFigure>> MissingAsync(IEnumerable<TakenOver> pieces, CancellationToken cancel)
    {
        var lacking = pieces.Where(p => p.Missing.Count > 0).ToList();
        if (lacking.Count == 0)
            return [];
        var known = await database
            .Command(
                """
                select distinct on (p.family, p.maker, p.model, p.attributes, b.part, b.criterion)
                  b.id, p.mark, p.family, p.maker, p.model, p.attributes::text as attributes, b.part, b.criterion, b.value, b.links
                from baseline b join piece p on p.id = b.piece_id
                where b.basis in ('new', 'catalogue') and p.maker is not null and p.model is not null
                  and p.family = any($1) and b.criterion = any($2)
                order by p.family, p.maker, p.model, p.attributes, b.part, b.criterion, b.id
                """
            )
            .Positional(
                lacking.Select(p => p.Family).Distinct().ToArray(),
                lacking.SelectMany(p => p.Missing).Select(k => k.Criterion).Distinct().ToArray()
            )
            .ListAsync(
                r =>
                    (
                        Number: r.Get<long>("id"),
                        Key: Key(
                            r.Get<string>("family"),
                            r.TextOrNull("maker"),
                            r.TextOrNull("model"),
                            SizedAs(PieceRows.GearOf(r.Get<string>("family"), r.Get<string>("attributes"))),
                            r.Get<string>("criterion"),
                            KindOf(r.Get<string>("part"))
                        ),
                        Maker: r.Get<string>("maker"),
                        Model: r.Get<string>("model"),
                        Mark: r.Get<string>("mark"),
                        Figure: new BaselineFigure(
                            Length.Parse(r.Get<string>("value")),
                            BaselineBasis.Twin,
                            r.ValueOrNull<int>("links")
                        )
                    ),
                cancel
            )
            .ConfigureAwait(false);
        var twins = known
            .Where(t => !Spelling.SaysNothing(t.Maker) && !Spelling.SaysNothing(t.Model))
            .GroupBy(t => t.Key)
            .ToDictionary(g => g.Key, g => g.MinBy(t => t.Number));
        return lacking
            .SelectMany(p => p.Missing.Select(k => (Piece: p, k.Criterion, Kind: KindOf(k.Part))).Distinct())
            .GroupBy(m =>
                (
                    m.Piece.Family,
                    Maker: m.Piece.Maker?.ToLowerInvariant(),
                    Model: m.Piece.Model?.ToLowerInvariant(),
                    m.Piece.Sized,
                    m.Criterion,
                    m.Kind
                )
            )
            .Select(g =>
            {
                var first = g.First();
                var twin = twins.TryGetValue(
                    Key(
                        first.Piece.Family,
                        first.Piece.Maker,
                        first.Piece.Model,
                        first.Piece.Sized,
                        first.Criterion,
                        first.Kind
                    ),
                    out var t
                )
                    ? t
                    : default;
                return new MissingFigure(
                    first.Piece.Family,
                    first.Piece.Maker,
                    first.Piece.Model,
                    first.Piece.Sized,
                    first.Criterion,
                    first.Kind,
                    g.Select(m => m.Piece).ToList(),
                    twin.Mark,
                    twin.Figure
                );
            })
            .OrderByDescending(m => m.Pieces.Count)
            .ThenBy(m => m.Family, StringComparer.Ordinal)
            .ToList();
    }

    /// <summary>Gives the pieces named the figure they lack. What has one keeps it.</summary>
    /// <param name="figure">The figure; null: each piece's own last measured one, accepted as provisional.</param>
    public Task<Checked<Recorded>> FillAsync(
        IReadOnlyCollection<Guid> pieces,
        string criterion,
        string partKind,
        BaselineFigure? figure,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session => session.OnPiecesAsync(pieces, row => FillAsync(session, row, criterion, partKind, figure)),
            cancel
        );

    private static async Task<Checked<PieceOutcome>> FillAsync(
        Session session,
        Piece row,
        string criterion,
        string partKind,
        BaselineFigure? figure
    )
    {
        var known = await session.AskAsync(t => PieceStore.Baselines(t, row.Id)).ConfigureAwait(false);
        var missing = PieceEntryReader
            .BaselinesOf(row.Gear)
            .Where(b => b.Criterion.Id == criterion && KindOf(b.Part.Path) == partKind)
            .Select(b => (Key: new BaselineKey(b.Part.Path, criterion), b.Criterion.OverLinks))
            .Where(b => !known.ContainsKey(b.Key))
            .ToList();
        var last = new Dictionary<BaselineKey, BaselineFigure?>();
        if (figure is null)
        {
            foreach (var (key, _) in missing)
                last[key] = await LastAsync(session, row.Id, key).ConfigureAwait(false);
        }

        var set = RegisterActs.Fill(row, missing, key => figure ?? last[key], session.By);
        if (!set.Ok)
            return set.Refusal!;
        await PieceWriter
            .InsertBaselinesAsync(session, set.Value.Select(s => (row.Id, s.Key, s.Value)))
            .ConfigureAwait(false);
        return new PieceOutcome(
            row.State,
            new BaselineSet([
                .. set.Value.Select(s => new RecordedFigure(s.Key.Part, s.Key.Criterion, s.Value.Length.ToString())
                {
                    Basis = Code.Of(s.Value.Basis),
                }),
            ])
        );
    }

    /// <summary>The last figure an inspection measured, as a provisional one.</summary>
    private static async Task<BaselineFigure?> LastAsync(Session session, Guid piece, BaselineKey key)
    {
        var value = await session
            .ReadAsync(
                """
                select a->>'value' from standing_inspection i, json_array_elements(i.case_document::json->'answers') a
                where i.piece_id = $1 and a->>'part' = $2 and a->>'criterion' = $3 and a->>'value' is not null
                order by i.counts_seq desc
                limit 1
                """,
                r => r.GetString(0),
                piece,
                key.Part,
                key.Criterion
            )
            .ConfigureAwait(false);
        return value.Count > 0 && Length.Read(value[0]) is { Ok: true } length
            ? new(length.Value, BaselineBasis.Provisional, null)
            : null;
    }

    /// <summary>What makes two pieces of one model alike in their figures.</summary>
    private static string SizedAs(Core.Gear.GearPiece gear) =>
        string.Join(", ", AlikeBy.Select(n => gear.Values.GetValueOrDefault(n)?.Text).OfType<string>());

    private static string Key(
        string family,
        string? maker,
        string? model,
        string sized,
        string criterion,
        string kind
    ) => $"{family}\n{maker}\n{model}\n{sized}\n{criterion}\n{kind}".ToLowerInvariant();
}
