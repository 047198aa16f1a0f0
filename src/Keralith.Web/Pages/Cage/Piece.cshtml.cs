using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Cage;

/// <summary>
/// One piece in the cage: its holds, release, new tag, condemning, destruction. Core decides who may and on what proof.
/// </summary>
public sealed class PieceModel(
    Here here,
    PieceStore pieces,
    CustodyStore custody,
    AwayStore away,
    Database database,
    PeopleStore people,
    FileStore files,
    Passwords passwords
) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public IReadOnlyList<HoldRow> Holds { get; private set; } = [];

    /// <summary>Pictures of what it is held for, by hold.</summary>
    public ILookup<Guid, Guid> Photos { get; private set; } = Enumerable.Empty<Guid>().ToLookup(_ => Guid.Empty);

    public IReadOnlyList<DisposalRow> Disposals { get; private set; } = [];

    public IReadOnlyList<Actor> Witnesses { get; private set; } = [];

    /// <summary>The hold whose reason was typed, and the reason.</summary>
    public Guid? Hold { get; private set; }

    public string? Typed { get; private set; }

    /// <summary>How its identity was proved, as the search for lost labels puts it.</summary>
    public string? Proof { get; private set; }

    public async Task<IActionResult> OnGetAsync(string mark, string? proof)
    {
        Proof = proof is { Length: > 0 and <= 400 } ? proof : null;
        return await LoadAsync(mark) ? Page() : NotFound();
    }

    [Takes(Right.CloseDoubt, Right.CloseVerdict, Right.ClosePolicy, Right.Recall)]
    public Task<IActionResult> OnPostReleaseAsync(string mark, int version, Guid hold, string? reason)
    {
        (Hold, Typed) = (hold, reason);
        return ChangeAsync(mark, p =>
            custody.ReleaseAsync(p.Id, version, hold, reason ?? string.Empty, Here.Stamp(Submission), Cancel)
        );
    }

    /// <summary>A new tag: recorded, then read.</summary>
    [Takes(Right.Retag)]
    public Task<IActionResult> OnPostRetagAsync(string mark, int version, string? proof, string? fittedBy) =>
        ChangeAsync(
            mark,
            p =>
                custody.RetagAsync(
                    p.Id,
                    version,
                    proof ?? string.Empty,
                    fittedBy ?? string.Empty,
                    Here.Stamp(Submission),
                    Cancel
                ),
            p => $"/piece/{p.Mark}/edit?retagged=true#tag"
        );

    /// <summary>Where it is while it is away; null: it is not.</summary>
    public AwayNow? Away { get; private set; }

    public IReadOnlyList<ProofTestRow> Tests { get; private set; } = [];

    /// <summary>How many months a proof test of it holds good; null: nobody asks one again.</summary>
    public int? ProofMonths { get; private set; }

    /// <summary>What it is proof tested to, or why nothing.</summary>
    public Checked<ProofBand> Band => ProofTests.BandOf(Piece.Gear, ProofSubject.Leg, Piece.RatedLoad);

    [Takes(Right.Issue)]
    public Task<IActionResult> OnPostSendAsync(
        string mark,
        int version,
        string? sentFor,
        string? to,
        string? what,
        string? back
    ) =>
        IsDay(back, "Expected back", out var day)
            ? ChangeAsync(mark, p =>
                away.SendAsync(
                    p.Id,
                    version,
                    Code.Find<AwayFor>(sentFor) ?? AwayFor.Repair,
                    to,
                    what,
                    day,
                    Here.Stamp(Submission),
                    Cancel
                )
            )
            : ShowAsync(mark);

    [Takes(Right.Issue)]
    public Task<IActionResult> OnPostBackAsync(string mark, int version, string? note, bool loadBearing) =>
        ChangeAsync(mark, p => away.TakeBackAsync(p.Id, version, note, loadBearing, Here.Stamp(Submission), Cancel));

    [Takes(Right.ProofTest)]
    public Task<IActionResult> OnPostProofAsync(
        string mark,
        int version,
        string? subject,
        string? load,
        string? on,
        string? madeBy,
        string? instrument,
        string? calibratedUntil,
        string? certificate,
        string? result
    )
    {
        if (!IsDay(on, "Day", out var day) || !IsDay(calibratedUntil, "Calibration holds until", out var until))
            return ShowAsync(mark);
        var put = Mass.Read(load ?? string.Empty);
        var test = new ProofTest(
            Code.Find<ProofSubject>(subject) ?? ProofSubject.Leg,
            put.Ok ? put.Value : null,
            day,
            madeBy,
            instrument,
            until,
            certificate,
            result == "passed"
        );
        return ChangeAsync(mark, p => away.TestAsync(p.Id, version, test, Here.Stamp(Submission), Cancel));
    }

    private async Task<IActionResult> ShowAsync(string mark) => await LoadAsync(mark) ? Page() : NotFound();

    [Takes(Right.Condemn)]
    public Task<IActionResult> OnPostCondemnAsync(string mark, int version, string? reason) =>
        ChangeAsync(mark, p =>
            custody.CondemnAsync(p.Id, version, reason ?? string.Empty, Here.Stamp(Submission), Cancel)
        );

    [Takes(Right.Destroy)]
    public Task<IActionResult> OnPostDestroyAsync(
        string mark,
        int version,
        string? method,
        string? witness,
        string? witnessPassword,
        string? note
    ) => ChangeAsync(mark, async p =>
        {
            // The witness confirms with their own sign-in: a name alone is nobody's word.
            var saw = await passwords.CheckAsync(witness, witnessPassword, HttpContext.Address(), Here.Now, Cancel);
            return await custody.DestroyAsync(
                p.Id,
                version,
                method ?? string.Empty,
                saw,
                note ?? string.Empty,
                Here.Stamp(Submission),
                Cancel
            );
        });

    private async Task<IActionResult> ChangeAsync(
        string mark,
        Func<Piece, Task<Checked<Recorded>>> change,
        Func<Piece, string>? onward = null
    )
    {
        if (!await LoadAsync(mark))
            return NotFound();
        var result = await change(Piece);
        return await AfterAsync(result, onward?.Invoke(Piece) ?? $"/cage/{Piece.Mark}", async () =>
        {
            Submission = Guid.CreateVersion7();
            ModelState.Clear();
            await LoadAsync(mark);
        });
    }

    private async Task<bool> LoadAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return false;
        Piece = piece;
        Holds = await custody.HoldsAsync(piece.Id, Cancel);
        Photos = await files.OfHoldsAsync(piece.Id, Cancel);
        var trip = new Trip();
        var (gone, tests) = (AwayStore.Of(trip, piece.Id), AwayStore.Tests(trip, piece.Id));
        await database.MakeAsync(trip, Cancel);
        (Away, Tests) = (gone.Value, tests.Value);
        ProofMonths = (await Here.SiteOfAsync(piece, Cancel)).ProofMonthsOf(
            piece.Gear.Family,
            piece.Maker,
            piece.Model
        );
        Disposals = await custody.DisposalsAsync(piece.Id, Cancel);
        Witnesses = (await people.AllAsync(Cancel)).Where(p => p.Id != Here.Actor.Id).ToList();
        return true;
    }
}
