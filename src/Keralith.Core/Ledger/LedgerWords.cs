namespace Keralith.Core.Ledger;

/// <summary>What each kind of entry says happened, in words for people.</summary>
public static class LedgerWords
{
    private static readonly Dictionary<string, string> Words = new()
    {
        ["baseline.set"] = "figures when new set",
        ["draft.discarded"] = "draft thrown away",
        ["file.attached"] = "file attached",
        ["gear.event"] = "something happened",
        ["head.kept"] = "head of the ledger kept",
        ["head.key-kept"] = "key for heads kept",
        ["head.signed"] = "head of the ledger signed",
        ["hold.released"] = "hold closed",
        ["inspection.handed-back"] = "inspection handed back to a trainee",
        ["inspection.offered"] = "inspection offered for countersignature",
        ["inspection.signed"] = "inspection signed",
        ["inspection.withdrawn"] = "inspection withdrawn",
        ["instrument.entered"] = "instrument entered",
        ["lot.counted"] = "lot counted",
        ["lot.split"] = "split out of a lot",
        ["part.replaced"] = "part replaced",
        ["person.authorised"] = "person authorised",
        ["person.changed"] = "person changed",
        ["person.disabled"] = "person's sign-in ended or given back",
        ["person.invited"] = "person invited",
        ["person.link-made"] = "link for a new password made",
        ["person.password-chosen"] = "password chosen",
        ["person.second-factor"] = "second factor set or taken off",
        ["person.sign-ins-ended"] = "sign-ins ended",
        ["piece.carried-over"] = "taken over with its report",
        ["piece.changed"] = "what is on record changed",
        ["piece.code-bound"] = "further code bound",
        ["piece.code-taken-off"] = "further code taken off",
        ["piece.condemned"] = "condemned",
        ["piece.destroyed"] = "destroyed",
        ["piece.facts-changed"] = "facts a verdict stands on changed",
        ["piece.found"] = "found again",
        ["piece.held"] = "put on hold",
        ["piece.held-by-rules"] = "held by a stricter rule",
        ["piece.handed-over"] = "handed over",
        ["piece.issued"] = "handed out",
        ["piece.let-go-by-rules"] = "let go by a rule withdrawn",
        ["piece.missing"] = "can't be found",
        ["piece.moved"] = "moved",
        ["piece.sent-away"] = "sent to repair or test",
        ["piece.came-back"] = "came back from repair or test",
        ["piece.proof-tested"] = "proof tested",
        ["piece.evidence-locked"] = "kept as evidence",
        ["piece.evidence-unlocked"] = "no longer kept as evidence",
        ["piece.replaces"] = "takes the place of another piece",
        ["piece.record-put-right"] = "a wrong record put right",
        ["piece.witness"] = "words of a witness taken down",
        ["piece.recalled"] = "held by a recall",
        ["record.sealed"] = "what stood before told",
        ["record.sealed-whole"] = "whole record told",
        ["recall.set"] = "gear called back",
        ["recall.ended"] = "recall let go",
        ["piece.registered"] = "registered",
        ["piece.retagged"] = "new tag fitted",
        ["piece.returned"] = "taken back",
        ["round.begun"] = "round of a store begun",
        ["round.closed"] = "round of a store closed",
        ["rules.catalogue"] = "newer catalogue of criteria",
        ["rules.limit-set"] = "limit set",
        ["rules.limit-withdrawn"] = "limit withdrawn",
        ["rules.proof-test-asked"] = "proof test asked",
        ["rules.proof-test-withdrawn"] = "proof test asked no more",
        ["rules.question-set"] = "own question set",
        ["rules.question-withdrawn"] = "own question withdrawn",
        ["rules.site"] = "books and policies set",
        ["season.marked"] = "season's mark put on",
        ["season.scheme"] = "season scheme set",
        ["site.added"] = "site added",
        ["site.renamed"] = "site renamed",
        ["store.closed"] = "store closed or opened again",
        ["store.kept"] = "store added or changed",
        ["store.ordered"] = "stores put in order",
        ["token.made"] = "token for a program made",
        ["token.revoked"] = "token for a program revoked",
        ["works.second-factor"] = "second factor asked, or no longer",
        ["works.set-up"] = "works set up",
    };

    /// <summary>The kinds there are words for, in the order of the words.</summary>
    public static IReadOnlyList<(string Kind, string Words)> All { get; } =
    [.. Words.Select(w => (w.Key, w.Value)).OrderBy(w => w.Value, StringComparer.Ordinal)];

    /// <summary>What a kind says happened. Steps of a lift have a kind each, and say so; an unknown kind says itself.</summary>
    public static string Of(string kind) =>
        Words.GetValueOrDefault(kind)
        ?? (kind.StartsWith("lift.", StringComparison.Ordinal) ? $"lift {kind[5..].Replace('-', ' ')}" : kind);
}
