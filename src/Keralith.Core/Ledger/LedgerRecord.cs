using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;

namespace Keralith.Core.Ledger;

/// <summary>
/// What an entry of the ledger keeps of one act. Each kind of entry is a record of its own below: its fields are what
/// stands in the entry, in the words of
/// the formats. A kind's name and its fields never change their meaning; new fields may be added.
/// </summary>
/// <param name="Kind">The kind's name, such as <c>inspection.signed</c>.</param>
public abstract record LedgerRecord([property: JsonIgnore] string Kind)
{
    /// <summary>The record as JSON, before it is brought to canonical form.</summary>
    public virtual string Json() => JsonSerializer.Serialize(this, GetType(), JsonSerializerOptions.Web);

    /// <summary>The member that carries the digest of the rows an entry tells.</summary>
    public const string Rows = "rows";

    /// <summary>The same with the digest of the rows it tells; null: it tells none.</summary>
    internal string Json(string? rows)
    {
        if (rows is null)
            return Json();
        var said = JsonNode.Parse(Json())!.AsObject();
        said[Rows] = rows;
        return said.ToJsonString();
    }
}

/// <summary>A figure when new, as entries keep it.</summary>
public sealed record RecordedFigure(string Part, string Criterion, string Value)
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Basis { get; init; }
}

/// <summary>A piece was registered: everything entered of it, by the register's field names.</summary>
public sealed record PieceRegistered(IReadOnlyDictionary<string, string> Fields) : LedgerRecord("piece.registered")
{
    public override string Json() => JsonSerializer.Serialize(Fields, JsonSerializerOptions.Web);
}

/// <summary>What is entered of a piece was changed: everything entered of it, as it stands now.</summary>
public sealed record PieceChanged(IReadOnlyDictionary<string, string> Fields) : LedgerRecord("piece.changed")
{
    public override string Json() => JsonSerializer.Serialize(Fields, JsonSerializerOptions.Web);
}

/// <summary>A fact that was changed, as entries keep it.</summary>
public sealed record RecordedChange(string Field, string Before, string After);

/// <summary>Facts that a verdict, a rating or a due date stands on were changed.</summary>
/// <param name="Changes">Old and new, fact by fact.</param>
/// <param name="Why">Why.</param>
/// <param name="File">The paper that shows it; null: read from the piece.</param>
/// <param name="Held">Why the piece is held by it; null: it is not.</param>
/// <param name="Fields">Everything entered of the piece, as it stands now.</param>
public sealed record PieceFactsChanged(
    IReadOnlyList<RecordedChange> Changes,
    string Why,
    Guid? File,
    string? Held,
    IReadOnlyDictionary<string, string> Fields
) : LedgerRecord("piece.facts-changed");

/// <summary>A rule became stricter: a piece's standing inspection comes out against it.</summary>
public sealed record RulesHeld(string Reason, Guid Inspection, string SignedAs, string ComesTo, string Because)
    : LedgerRecord("piece.held-by-rules");

/// <summary>The rule that held pieces was withdrawn, and they were let go.</summary>
public sealed record RulesReleased(Guid Hold, string Reason) : LedgerRecord("piece.let-go-by-rules");

/// <summary>A newer catalogue judges from now on.</summary>
public sealed record CatalogueChanged(string From, string To, int Held) : LedgerRecord("rules.catalogue");

/// <summary>An inspection was signed.</summary>
public sealed record InspectionSigned(
    Guid Inspection,
    DateOnly InspectedOn,
    string Catalogue,
    JsonElement WorkedTo,
    JsonElement Case,
    JsonElement Verdict,
    string SignedAs,
    string? Stricter,
    Guid? MadeBy,
    DateOnly? NextBy,
    IReadOnlyList<string> Instruments,
    IReadOnlyDictionary<string, string> Notes,
    JsonElement Pins,
    IReadOnlyList<Guid> Photos,
    Guid? Corrects,
    string? CorrectionWhy
) : LedgerRecord("inspection.signed")
{
    /// <summary>What the site asked of its own, as it was asked; left out where it asked nothing.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public JsonElement? Own { get; init; }

    /// <summary>What others than whoever made it answered, by person; left out where nobody else did.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyDictionary<Guid, IReadOnlyList<string>>? Hands { get; init; }
}

/// <summary>A trainee signed an inspection for countersignature.</summary>
public sealed record InspectionOffered(Guid Inspection, DateOnly InspectedOn, string Verdict)
    : LedgerRecord("inspection.offered");

/// <summary>A trainee's inspection was handed back.</summary>
public sealed record InspectionHandedBack(Guid Inspection, string Remark) : LedgerRecord("inspection.handed-back");

/// <summary>An answer of a draft, as entries keep it.</summary>
public sealed record RecordedAnswer(string Part, string Criterion, string Answer, string? Note);

/// <summary>A draft was thrown away that had measured, counted or found something.</summary>
public sealed record DraftDiscarded(Guid Draft, IReadOnlyList<RecordedAnswer> Answers)
    : LedgerRecord("draft.discarded");

/// <summary>A signed inspection was withdrawn.</summary>
public sealed record InspectionWithdrawn(Guid Inspection, DateOnly InspectedOn, string Verdict, string Why)
    : LedgerRecord("inspection.withdrawn");

/// <summary>A hold was put on.</summary>
public sealed record PieceHeld(string Cause, string Reason) : LedgerRecord("piece.held");

/// <summary>A hold was closed.</summary>
public sealed record HoldReleased(Guid Hold, string Cause, string Reason) : LedgerRecord("hold.released");

/// <summary>A new tag was fitted.</summary>
public sealed record PieceRetagged(string Proof, string FittedBy) : LedgerRecord("piece.retagged");

/// <summary>A piece was condemned.</summary>
public sealed record PieceCondemned(string Reason) : LedgerRecord("piece.condemned");

/// <summary>A condemned piece was destroyed.</summary>
public sealed record PieceDestroyed(string Method, string Witness, string Note) : LedgerRecord("piece.destroyed");

/// <summary>A piece hangs elsewhere.</summary>
public sealed record PieceMoved(string From, string To) : LedgerRecord("piece.moved");

/// <summary>A piece can't be found.</summary>
public sealed record PieceMissing(string Reason) : LedgerRecord("piece.missing");

/// <summary>A missing piece was found.</summary>
public sealed record PieceFound(string Where) : LedgerRecord("piece.found");

/// <summary>It went to a shop or a test bed.</summary>
public sealed record PieceSentAway(string For, string To, string What, DateOnly? Back)
    : LedgerRecord("piece.sent-away");

/// <summary>It came back, with the shop's note.</summary>
public sealed record PieceCameBack(string For, string Note, bool LoadBearing) : LedgerRecord("piece.came-back");

/// <summary>A proof test was made.</summary>
public sealed record ProofTested(
    string Subject,
    string Load,
    decimal Factor,
    DateOnly On,
    string MadeBy,
    string Instrument,
    DateOnly CalibratedUntil,
    string Certificate,
    bool Passed
) : LedgerRecord("piece.proof-tested");

/// <summary>It is kept as evidence: no repair, no destruction, no change of record.</summary>
public sealed record EvidenceLocked(string Reason) : LedgerRecord("piece.evidence-locked");

/// <summary>It is kept as evidence no more.</summary>
public sealed record EvidenceUnlocked(string Reason) : LedgerRecord("piece.evidence-unlocked");

/// <summary>It takes the place of another piece.</summary>
public sealed record PieceReplaces(string Replaces) : LedgerRecord("piece.replaces");

/// <summary>A wrong record was put right: what it was, why, and what is right.</summary>
public sealed record RecordPutRight(string Record, Guid Wrong, string Why, string Right)
    : LedgerRecord("piece.record-put-right");

/// <summary>A witness's words were taken down.</summary>
public sealed record WitnessTaken(string Who, DateOnly On, string Words) : LedgerRecord("piece.witness");

/// <summary>Gear was called back: what matches is held, and what matches later.</summary>
public sealed record RecallSet(
    Guid Recall,
    string Maker,
    string? Model,
    string? Batch,
    string? SerialFrom,
    string? SerialTo,
    DateOnly? From,
    DateOnly? Until,
    string Reason,
    string Source,
    int Held
) : LedgerRecord("recall.set");

/// <summary>A recall was let go: it holds nothing from then on.</summary>
public sealed record RecallEnded(Guid Recall, string Reason, int LetGo) : LedgerRecord("recall.ended");

/// <summary>A recall holds a piece.</summary>
public sealed record PieceRecalled(Guid Recall, string Reason) : LedgerRecord("piece.recalled");

/// <summary>A round of a store, or a search for chosen pieces, was begun.</summary>
public sealed record RoundBegun(string Name, int Expected) : LedgerRecord("round.begun");

/// <summary>A round was closed: how many hung where they should, and by their marks those that did not.</summary>
public sealed record RoundClosed(
    string Name,
    int Seen,
    IReadOnlyList<string> NotSeen,
    IReadOnlyList<string> WrongPeg,
    IReadOnlyList<string> Extra,
    IReadOnlyList<string> Unknown
) : LedgerRecord("round.closed");

/// <summary>The season's mark was put on.</summary>
public sealed record SeasonMarked(string Season, string Colour, DateOnly From) : LedgerRecord("season.marked");

/// <summary>A part was replaced, with the new part's figures.</summary>
public sealed record PartReplaced(
    string Part,
    string What,
    string FittedBy,
    string Reason,
    IReadOnlyList<RecordedFigure> Figures
) : LedgerRecord("part.replaced");

/// <summary>A lot was counted.</summary>
public sealed record LotCounted(int Seen, int Rejected, int Left, string Reason) : LedgerRecord("lot.counted");

/// <summary>One piece was taken out of a lot under a mark of its own.</summary>
public sealed record LotSplit(string Became, int Left, string Reason) : LedgerRecord("lot.split");

/// <summary>A piece was handed out.</summary>
public sealed record PieceIssued(Guid Issue, string Holder, string Job, DateOnly? Back, Guid? Lift)
    : LedgerRecord("piece.issued");

/// <summary>Somebody who had a piece handed it to the next, without the store.</summary>
public sealed record PieceHandedOver(Guid Issue, string From, string Holder, string Job, DateOnly? Back)
    : LedgerRecord("piece.handed-over");

/// <summary>A piece came back.</summary>
public sealed record PieceReturned(string From, string Doubt) : LedgerRecord("piece.returned");

/// <summary>Something happened to a piece beyond its use.</summary>
public sealed record GearEventRecorded(Guid Event, string EventKind, DateOnly Happened, string What)
    : LedgerRecord("gear.event")
{
    [JsonPropertyName("kind")]
    public string EventKind { get; init; } = EventKind;
}

/// <summary>The report of gear taken over was accepted.</summary>
public sealed record CarriedOverAccepted(DateOnly LastPeriodic, string Inspector, string Evidence, Guid File)
    : LedgerRecord("piece.carried-over");

/// <summary>Figures when new were filled in.</summary>
public sealed record BaselineSet(IReadOnlyList<RecordedFigure> Figures) : LedgerRecord("baseline.set");

/// <summary>A file was attached.</summary>
public sealed record FileAttached(Guid File, string FileKind, string Title, DateOnly? Dated, string Sha256)
    : LedgerRecord("file.attached")
{
    [JsonPropertyName("kind")]
    public string FileKind { get; init; } = FileKind;
}

/// <summary>Books, editions, watch share, policies or the time zone of a site were changed.</summary>
public sealed record SiteRules(
    IReadOnlyList<string> Books,
    IReadOnlyDictionary<string, int> Editions,
    decimal WatchShare,
    JsonElement Policies,
    bool? EnforceSeason,
    string TimeZone,
    string Reason
) : LedgerRecord("rules.site");

/// <summary>A limit of the site or a maker was set.</summary>
public sealed record LimitSet(string Owner, string Maker, string Model, string Criterion, string Figure, string Reason)
    : LedgerRecord("rules.limit-set");

/// <summary>A limit of the site or a maker was withdrawn.</summary>
public sealed record LimitWithdrawn(
    string Owner,
    string Maker,
    string Model,
    string Criterion,
    string Figure,
    string Reason
) : LedgerRecord("rules.limit-withdrawn");

/// <summary>A proof test is asked again and again.</summary>
public sealed record ProofAskSet(string Maker, string Model, string Family, int Months, string Reason)
    : LedgerRecord("rules.proof-test-asked");

/// <summary>A proof test is asked no more.</summary>
public sealed record ProofAskWithdrawn(string Maker, string Model, string Family, string Reason)
    : LedgerRecord("rules.proof-test-withdrawn");

/// <summary>A further code leads to a piece from now on.</summary>
public sealed record CodeBound(string Code) : LedgerRecord("piece.code-bound");

/// <summary>A further code leads to a piece no more.</summary>
public sealed record CodeTakenOff(string Code, string Reason) : LedgerRecord("piece.code-taken-off");

/// <summary>A question of the site's own is asked from now on.</summary>
public sealed record QuestionSet(
    string Question,
    string Family,
    string Part,
    string Maker,
    string Model,
    string How,
    string AskedIn,
    string OnFault,
    string Title,
    string Asked,
    string Look,
    string Source,
    string Reason
) : LedgerRecord("rules.question-set");

/// <summary>A question of the site's own is asked no more.</summary>
public sealed record QuestionWithdrawn(string Question, string Title, string Reason)
    : LedgerRecord("rules.question-withdrawn");

/// <summary>The season scheme was set.</summary>
public sealed record SeasonSchemeSet(JsonElement Scheme, string Reason) : LedgerRecord("season.scheme");

/// <summary>Somebody was authorised to sign for a group of gear, up to a day.</summary>
public sealed record PersonAuthorised(string Group, DateOnly Until) : LedgerRecord("person.authorised");

/// <summary>The works was set up: its first administrator, first store and books.</summary>
public sealed record WorksSetUp(
    string Works,
    string Unit,
    string Store,
    IReadOnlyList<string> Books,
    string TimeZone,
    string Administrator
) : LedgerRecord("works.set-up");

/// <summary>Somebody was invited to sign in.</summary>
public sealed record PersonInvited(string Name, IReadOnlyList<string> Roles) : LedgerRecord("person.invited");

/// <summary>A person's name or roles were changed.</summary>
public sealed record PersonChanged(
    string NameBefore,
    string Name,
    IReadOnlyList<string> RolesBefore,
    IReadOnlyList<string> Roles
) : LedgerRecord("person.changed");

/// <summary>A person was disabled, or may sign in again.</summary>
public sealed record PersonDisabled(bool Disabled) : LedgerRecord("person.disabled");

/// <summary>An address to choose a password was made.</summary>
public sealed record PersonLinkMade(string Purpose, DateTimeOffset Until) : LedgerRecord("person.link-made");

/// <summary>A person chose a password.</summary>
/// <param name="By">By what: <c>invitation</c>, <c>reset</c> or <c>self</c>.</param>
public sealed record PasswordChosen(string By) : LedgerRecord("person.password-chosen");

/// <summary>A person's sign-ins were ended.</summary>
public sealed record SignInsEnded(int Ended) : LedgerRecord("person.sign-ins-ended");

/// <summary>A person set a second factor up, or it was taken off.</summary>
public sealed record SecondFactorSet(bool IsOn) : LedgerRecord("person.second-factor");

/// <summary>Whether a second factor is asked of those who release, condemn or administer.</summary>
public sealed record SecondFactorAsked(bool IsAsked) : LedgerRecord("works.second-factor");

/// <summary>A store was added or changed.</summary>
public sealed record StoreKept(int Store, string Name, string About, string StoreKind, bool OftenOffline)
    : LedgerRecord("store.kept")
{
    /// <summary>The number of the site it belongs to.</summary>
    public int Site { get; init; } = 1;
}

/// <summary>A site was added.</summary>
public sealed record SiteAdded(int Site, string Name, IReadOnlyList<string> Books, string TimeZone)
    : LedgerRecord("site.added");

/// <summary>A site was given another name.</summary>
public sealed record SiteRenamed(string NameBefore, string Name) : LedgerRecord("site.renamed");

/// <summary>A store was closed, or opened again.</summary>
public sealed record StoreClosed(int Store, string Name, bool Closed) : LedgerRecord("store.closed");

/// <summary>The stores were put in another order.</summary>
public sealed record StoresOrdered(IReadOnlyList<int> Order) : LedgerRecord("store.ordered");

/// <summary>A token for programs was made.</summary>
public sealed record TokenMade(Guid Token, string Name) : LedgerRecord("token.made")
{
    /// <summary>The last day it counts; left out where it has no end.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public DateOnly? Ends { get; init; }

    /// <summary>The roles it acts with, by their codes; left out where they are all its person has.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<string>? Roles { get; init; }
}

/// <summary>A token was revoked.</summary>
public sealed record TokenRevoked(Guid Token) : LedgerRecord("token.revoked");

/// <summary>An instrument was entered, or its new calibration.</summary>
public sealed record InstrumentEntered(string Name, string Uncertainty, DateOnly CalibrationDue)
    : LedgerRecord("instrument.entered");

/// <summary>A step in the life of a lift: checked, signed, weighed, tried, its gear out, ended, or back to planning.</summary>
/// <param name="Step">The step's code; it ends the kind.</param>
/// <param name="Said">What was said, by name.</param>
public sealed record LiftStepped(
    [property: JsonIgnore] string Step,
    Guid Lift,
    int Version,
    IReadOnlyDictionary<string, string> Said
) : LedgerRecord($"lift.{Step}");

/// <summary>A plan that was checked was changed: the lift is back at planning.</summary>
/// <param name="Version">The version that was checked.</param>
public sealed record LiftChanged(Guid Lift, int Version) : LedgerRecord("lift.changed");

/// <summary>What stood in a table of the record before entries told their rows.</summary>
/// <param name="Table">The table.</param>
/// <param name="Count">How many of its rows this entry tells.</param>
public sealed record RecordSealed(string Table, int Count) : LedgerRecord("record.sealed");

/// <summary>From here on the ledger tells the whole record.</summary>
/// <param name="Count">How many rows were told by <see cref="RecordSealed"/>.</param>
public sealed record RecordSealedWhole(long Count) : LedgerRecord("record.sealed-whole");

/// <summary>The ledger's head was kept beside it.</summary>
/// <param name="Number">The entry it stands for.</param>
public sealed record HeadKept(long Number) : LedgerRecord("head.kept");

/// <summary>The ledger's head was signed.</summary>
/// <param name="Size">How many entries it stands for.</param>
/// <param name="Key">The fingerprint of the key.</param>
public sealed record HeadSigned(long Size, string Key) : LedgerRecord("head.signed");

/// <summary>A key to sign heads with was kept.</summary>
/// <param name="Key">Its fingerprint.</param>
public sealed record HeadKeyKept(string Key) : LedgerRecord("head.key-kept");

/// <summary>The works was made anew from its ledger and its files: what stands before this entry is the ledger it was made of.</summary>
/// <param name="Entries">How many entries.</param>
/// <param name="Count">How many rows of the record they tell.</param>
public sealed record WorksRebuilt(long Entries, long Count) : LedgerRecord("works.rebuilt");
