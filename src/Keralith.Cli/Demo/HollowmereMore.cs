using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Data;
using Keralith.Web.Printing;

namespace Keralith.Cli.Demo;

/// <summary>
/// The breadth of the yard: some three hundred pieces more over all families, bins of small hardware, a shed taken
/// over, the season's paint.
/// </summary>
public sealed partial class Hollowmere
{
    private const int FirstMore = 101;
    private const int LastMore = 384;
    private const int FirstTakenOver = 401;
    private const int LastTakenOver = 424;
    private const string Survey = "Lockside survey 11";

    private SeasonScheme Seasons() =>
        new(
            _scenario
                .Seasons.Select(s => new SeasonMark(s.Letter, s.Colour, Enum.Parse<SeasonPattern>(s.Pattern)))
                .ToList(),
            3,
            new(_today.Year - 4, 1, 1),
            21,
            false
        );

    private void More(List<Store> stores)
    {
        for (var n = FirstMore; n <= LastMore; n++)
        {
            var i = n - FirstMore;
            var piece = Any(n, i);
            Hang(piece, stores[(i / 2) % 3], 33 + (i / 3));
            var hoist =
                GearFamilies.Find(piece.Fields["family"])!.Group is FamilyGroup.Hoist or FamilyGroup.BelowHook
                || piece.Fields["family"] == "hook";
            switch (i)
            {
                case 7: // Lost on the long pound last autumn.
                    InUse(piece, 14, 90);
                    At(44, 16, t =>
                        Custody(
                            piece,
                            (p, s) =>
                                _yard.LoseAsync(
                                    p.Id,
                                    "Last seen on the stop planks at lock 12; Maud Tarrow had it",
                                    s,
                                    _cancel
                                ),
                            "crew",
                            t
                        )
                    );
                    break;
                case 11: // Half the tag gone: what it must carry is not all there.
                    InUse(piece.Without("tag:maker", "tag:ratedLoad").With("legibility", "hard"), 13, 60);
                    break;
                case 19: // A new hook by the maker, tested and inspected since.
                    InUse(piece, 16, 130);
                    break;
                case 23: // Moved with the boat.
                    InUse(piece, 15, 70);
                    At(30, 9, t =>
                        Custody(piece, (p, s) => _yard.MoveAsync([p.Id], stores[1].Id, "B4", s, _cancel), "stores", t)
                    );
                    break;
                case 31: // Its design factor is not on the tag.
                    InUse(piece.Without("designFactor"), 12, 40);
                    break;
                case 47 or 48 or 49: // Bins of shackles: one mark, a count.
                    InUse(piece.With("lotCount", (12 + (i % 3 * 8)).ToString()), 12, 50);
                    At(12, 10, t =>
                        Custody(
                            piece,
                            (p, s) =>
                                _yard.CountLotAsync(
                                    p.Id,
                                    p.Version,
                                    p.LotCount!.Value,
                                    1,
                                    "One pin would not run in by hand",
                                    s,
                                    _cancel
                                ),
                            "stores",
                            t
                        )
                    );
                    break;
                default:
                    if (i % 41 == 5)
                        Register(piece, 3 + (i % 9));
                    else
                        InUse(piece, 10 + (i % 9), hoist ? 3 + (i * 7 % 24) : 10 + (i * 37 % 280));
                    break;
            }
        }
    }

    /// <summary>The next make of chain, shackle or anything else, in turn.</summary>
    private DemoPiece Any(int number, int i)
    {
        var mark = Mark(number);
        if (i is 47 or 48 or 49 || i % 7 == 2)
            return DemoPiece.Shackle(
                mark,
                _scenario.Shackles[i % _scenario.Shackles.Length],
                i % 3 == 0 ? "bolt" : "screw",
                _random
            );
        if (i % 7 is 0 or 4)
            return DemoPiece.Sling(
                mark,
                _scenario.Chain[i % _scenario.Chain.Length],
                i % 4 == 0 ? 1 : 2,
                "hook",
                4 + (i % 5 * 2),
                _random
            );
        return DemoPiece
            .Of(
                mark,
                _scenario
                    .Others.Where(o => o.Family is not ("eye-nut" or "lifting-point"))
                    .ElementAt(i % (_scenario.Others.Length - 2)),
                _random
            )
            .With("batch", $"B{20 + (i % 6)}");
    }

    /// <summary>
    /// The shed at lock 11, taken over with a surveyor's report: figures when new unknown, markings still to be read.
    /// </summary>
    private void TakenOver(List<Store> stores)
    {
        var pieces = Enumerable
            .Range(FirstTakenOver, LastTakenOver - FirstTakenOver + 1)
            .Select(n =>
            {
                var piece =
                    n % 3 == 0
                        ? DemoPiece.Shackle(
                            Mark(n),
                            _scenario.Shackles[n % _scenario.Shackles.Length],
                            "screw",
                            _random
                        )
                        : DemoPiece.Sling(Mark(n), _scenario.Chain[n % _scenario.Chain.Length], 2, "hook", 6, _random);

                // Nine were read and measured before their report was accepted.
                var ready = n < FirstTakenOver + 9;
                foreach (
                    var field in piece
                        .Fields.Keys.Where(f =>
                            !ready
                            && (
                                f.StartsWith("tag:", StringComparison.Ordinal)
                                || (n % 4 != 0 && f.StartsWith("baseline:", StringComparison.Ordinal))
                            )
                        )
                        .ToList()
                )
                    piece.Without(field);
                if (n % 4 == 0)
                    piece.WithBasis("catalogue");
                Hang(piece, stores[2], 140 + (n % 12));
                return piece
                    .With(PieceEntryReader.TagUnread, ready ? string.Empty : "true")
                    .With("lastPeriodic", _today.AddDays(-70).ToString("yyyy-MM-dd"))
                    .With("lastInspector", "Hesper Lunn")
                    .With("evidence", n < FirstTakenOver + 16 ? Survey : $"Boat survey {n % 3 + 1}");
            })
            .ToList();
        foreach (var piece in pieces)
            Register(piece, 21);
        At(20, 14, async t =>
        {
            var rows = await _pieces.OfMarksAsync(pieces.Take(16).Select(p => p.Mark).ToList(), _cancel);
            var report = RegisterSheet.Pdf(rows, $"{Survey}: gear seen and found fit", _today.AddDays(-70), t);
            Must(
                await _files.AttachAsync(
                    rows.Select(r => r.Id).ToList(),
                    new(FileKind.Report, Survey, _today.AddDays(-70), "application/pdf", report, null),
                    Stamp("stores", t),
                    _cancel
                )
            );
        });
        At(19, 9, async t =>
            Must(
                await _files.AcceptReportsAsync(
                    (await _pieces.OfMarksAsync(pieces.Take(9).Select(p => p.Mark).ToList(), _cancel))
                        .Select(r => r.Id)
                        .ToList(),
                    Stamp("inspector", t),
                    _cancel
                )
            )
        );
    }

    /// <summary>Most carry this season's mark, some the last one's; what may not be painted is passed over.</summary>
    private void Paint()
    {
        var now = Seasons().On(_today)!;
        var before = now.From.AddDays(-20).DayNumber - _today.DayNumber;
        var since = Math.Max(-1, now.From.DayNumber - _today.DayNumber);
        On(before, new(11, 0), at => PaintAsync(at, i => i % 6 == 4));
        On(since, new(17, 30), at => PaintAsync(at, i => i % 6 < 4));
    }

    private async Task PaintAsync(DateTimeOffset at, Func<int, bool> takes)
    {
        var day = DateOnly.FromDateTime(at.Date);
        foreach (var store in await _sites.StoresAsync(_cancel))
        {
            var hanging = await _pieces.ListAsync(
                new()
                {
                    Store = store.Id,
                    State = PieceState.InService,
                    Most = 1000,
                },
                _cancel
            );
            foreach (var (i, piece) in hanging.Index())
            {
                if (
                    takes(i)
                    && piece is { SeasonFor: null, Verdict: VerdictKind.Fit or VerdictKind.Watch }
                    && !(piece.PeriodicDue < day)
                )
                    Must(await _yard.PaintAsync([piece.Id], Stamp("inspector", at), _cancel));
            }
        }
    }
}
