namespace Keralith.Data;

/// <summary>The kinds of facts that stand in the ledger too.</summary>
internal static class VerifiedFacts
{
    /// <summary>
    /// Each kind of fact with its piece, when and by whom it was made, and what its entry in the ledger says of it:
    /// every fact has such an entry. Where what is said has a shape of its own, only that there is an entry is asked
    /// here, and the rest by <see cref="VerifyStore"/>.
    /// </summary>
    public static IReadOnlyList<(string What, string? Kind, string Sql)> All { get; } =
    [
        ("inspection", null, "select piece_id, signed_at, signed_by, '{}'::jsonb from inspection"),
        ("hold", null, "select piece_id, placed_at, placed_by, '{}'::jsonb from hold"),
        (
            "end of a hold",
            null,
            "select h.piece_id, f.released_at, f.released_by, '{}'::jsonb from release f join hold h on h.id = f.hold_id"
        ),
        ("figure when new", null, "select piece_id, set_at, set_by, '{}'::jsonb from baseline"),
        (
            "withdrawal of an inspection",
            "inspection.withdrawn",
            """
            select i.piece_id, s.at, s.by_person, jsonb_build_object('inspection', s.inspection_id, 'why', s.why)
            from supersession s join inspection i on i.id = s.inspection_id where s.became is null
            """
        ),
        (
            "correction of an inspection",
            "inspection.signed",
            """
            select i.piece_id, s.at, s.by_person, jsonb_build_object('inspection', s.became, 'corrects', s.inspection_id)
            from supersession s join inspection i on i.id = s.inspection_id where s.became is not null
            """
        ),
        (
            "new tag",
            "piece.retagged",
            "select piece_id, at, by_person, jsonb_build_object('proof', proof, 'fittedBy', fitted_by) from retag"
        ),
        (
            "condemning",
            "piece.condemned",
            "select piece_id, at, by_person, jsonb_build_object('reason', reason) from disposal where step = 'condemned'"
        ),
        (
            "destruction",
            "piece.destroyed",
            """
            select d.piece_id, d.at, d.by_person, jsonb_build_object('method', d.method, 'witness', w.username, 'note', d.reason)
            from disposal d join person w on w.id = d.witness where d.step = 'destroyed'
            """
        ),
        (
            "change of facts",
            "piece.facts-changed",
            "select piece_id, at, by_person, jsonb_build_object('why', why, 'file', attachment_id) from fact_change"
        ),
        (
            "replaced part",
            "part.replaced",
            """
            select piece_id, at, by_person,
              jsonb_build_object('part', part, 'what', what, 'fittedBy', fitted_by, 'reason', reason)
            from part_change
            """
        ),
        (
            "hand-out",
            "piece.issued",
            """
            select piece_id, at, by_person, jsonb_build_object('issue', id, 'holder', holder, 'job', job) from issue
            where handed_from is null
            """
        ),
        (
            "hand-over",
            "piece.handed-over",
            """
            select i.piece_id, i.at, i.by_person,
              jsonb_build_object('issue', i.id, 'from', f.holder, 'holder', i.holder, 'job', i.job)
            from issue i join issue f on f.id = i.handed_from
            """
        ),
        (
            "season's mark",
            "season.marked",
            "select piece_id, at, by_person, jsonb_build_object('from', season_for::text) from season_mark"
        ),
        (
            "further code",
            "piece.code-bound",
            "select piece_id, at, by_person, jsonb_build_object('code', code) from piece_code"
        ),
        (
            "sending away",
            "piece.sent-away",
            "select piece_id, at, by_person, jsonb_build_object('for', sent_for, 'to', sent_to, 'what', what) from away"
        ),
        (
            "coming back",
            "piece.came-back",
            """
            select a.piece_id, r.at, r.by_person, jsonb_build_object('for', a.sent_for, 'note', r.note, 'loadBearing', r.load_bearing)
            from away_return r join away a on a.id = r.away_id
            """
        ),
        (
            "proof test",
            "piece.proof-tested",
            """
            select piece_id, at, by_person,
              jsonb_build_object('load', load, 'factor', factor, 'on', tested_on::text, 'passed', passed, 'certificate', certificate)
            from proof_test
            """
        ),
        (
            "keeping as evidence",
            "piece.evidence-locked",
            "select piece_id, at, by_person, jsonb_build_object('reason', reason) from evidence where locked"
        ),
        (
            "letting go of evidence",
            "piece.evidence-unlocked",
            "select piece_id, at, by_person, jsonb_build_object('reason', reason) from evidence where not locked"
        ),
        (
            "taking the place of another",
            "piece.replaces",
            """
            select r.piece_id, r.at, r.by_person, jsonb_build_object('replaces', o.mark)
            from replacement r join piece o on o.id = r.replaces
            """
        ),
        (
            "putting right of a record",
            "piece.record-put-right",
            "select piece_id, at, by_person, jsonb_build_object('record', kind, 'wrong', record_id, 'why', why) from put_right"
        ),
        (
            "words of a witness",
            "piece.witness",
            "select piece_id, at, by_person, jsonb_build_object('who', who, 'on', said_on::text, 'words', words) from witness"
        ),
        (
            "move",
            "piece.moved",
            "select piece_id, at, by_person, jsonb_build_object('from', from_place, 'to', to_place) from move where kind = 'moved'"
        ),
    ];

    /// <summary>
    /// What every entry of a kind tells of, where it tells of it: a fact of the piece made by the same hand at the same
    /// moment that says the same, still there. A code may be taken off again, and is bound to nothing then.
    /// </summary>
    public static IEnumerable<(string What, string Kind, string Sql, string Where)> Told =>
        All.Where(f => f.Kind is not (null or "piece.code-bound"))
            .Select(f =>
                (
                    f.What,
                    f.Kind!,
                    f.Sql,
                    f.Kind == "inspection.signed" ? "l.data::jsonb->>'corrects' is not null" : "true"
                )
            )
            .Concat(
                HoldKinds.Select(kind =>
                    (
                        "hold",
                        kind,
                        "select piece_id, placed_at, placed_by, '{}'::jsonb from hold",
                        kind == "inspection.signed" ? FirstSignedAgainst : "true"
                    )
                )
            )
            .Concat(EndKinds.Select(kind => ("end of a hold", kind, Ends, "true")));

    private static readonly string[] HoldKinds =
    [
        "piece.held",
        "piece.held-by-rules",
        "piece.recalled",
        "piece.found",
        "piece.came-back",
        "part.replaced",
        "gear.event",
        "inspection.signed",
    ];

    // A correction puts no second hold on where that of the wrong record stands.
    private const string FirstSignedAgainst =
        "l.data::jsonb->>'signedAs' in ('hold', 'remove') and l.data::jsonb->>'corrects' is null";

    private static readonly string[] EndKinds = ["hold.released", "piece.let-go-by-rules"];

    private const string Ends = """
        select h.piece_id, f.released_at, f.released_by, jsonb_build_object('hold', f.hold_id)
        from release f join hold h on h.id = f.hold_id
        """;
}
