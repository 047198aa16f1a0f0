namespace Keralith.Data;

/// <summary>
/// A table of the record: each row that an act writes into it is told by the act's entry in the ledger.
/// </summary>
/// <param name="Name">Its name.</param>
/// <param name="What">What a row of it is, in words.</param>
/// <param name="Keys">The columns that name a row.</param>
/// <param name="Piece">The column that names the piece, or what leads to it; null: it is of none.</param>
internal sealed record RecordTable(string Name, string What, string[] Keys, string? Piece = "piece_id")
{
    /// <summary>The table in which <see cref="Piece"/> names a row of the piece; null: it names the piece.</summary>
    public string? Via { get; init; }

    /// <summary>Columns that are derived, of no weight, or told elsewhere in the entry.</summary>
    public string[] LeftOut { get; init; } = [];

    /// <summary>Columns of which only the SHA-256 is told: secrets.</summary>
    public string[] Hashed { get; init; } = [];

    /// <summary>Which rows are of the record, of the table as <c>t</c>; null: all.</summary>
    public string? Only { get; init; }

    /// <summary>Whether the entry itself states what is left out.</summary>
    public bool IsStatedElsewhere { get; init; }

    /// <summary>What stands in columns of a works made anew that can't be told: SQL by column, of the row as <c>r</c>.</summary>
    public IReadOnlyDictionary<string, string> Anew { get; init; } = new Dictionary<string, string>();

    /// <summary>The table as the ledger tells it, in SQL: <c>key</c>, <c>image</c> and the number of the entry, the last of each row.</summary>
    public string Told =>
        $"""
            select distinct on (key) key, image, number
            from ledger_row
            where kind = '{Name}'
            order by key, number desc
            """;

    /// <summary>The key of a row as it is told: its key columns, joined.</summary>
    /// <param name="image">The row's image, in SQL.</param>
    public string KeyOf(string image) => string.Join(" || ',' || ", Keys.Select(k => $"({image}->>'{k}')"));

    /// <summary>The piece of a row, in SQL.</summary>
    /// <param name="image">The row's image, in SQL.</param>
    public string PieceOf(string image) =>
        Piece is null ? "null::uuid"
        : Via is null ? $"({image}->>'{Piece}')::uuid"
        : $"(select v.piece_id from {Via} v where v.id = ({image}->>'{Piece}')::uuid)";
}

/// <summary>
/// Which tables are of the record, and why the others are not. Those of the record stand in the order in which one
/// refers to another.
/// </summary>
internal static class RecordTables
{
    private static readonly string[] Id = ["id"];

    /// <summary>Of a file told as <c>r</c> what is there by its digest; a file that is not is empty, and does not verify.</summary>
    private const string TheFile = "from told_file f where f.sha256 = r.sha256 order by f.id = r.id desc limit 1";

    /// <summary>The tables of the record.</summary>
    public static IReadOnlyList<RecordTable> All { get; } =
    [
        new("site", "settings of a site", Id, null) { LeftOut = ["version"] },
        new("store", "store", Id, null),
        new("person", "person", Id, null)
        {
            LeftOut = ["role", "last_step", "mails", "mail_kinds", "unit", "explain", "shows_steps"],
            Hashed = ["password_hash", "factor", "mail"],
            Anew = new Dictionary<string, string>
            {
                ["password_hash"] = "''",
                ["factor"] = "null::bytea",
                ["mail"] = "''",
            },
        },
        new("authorisation", "authorisation", Id, null),
        new("api_token", "token of a program", Id, null),
        new("instrument", "instrument", Id, null),
        new("own_limit", "limit", Id, null),
        new("own_question", "own question", Id, null),
        new("question_withdrawal", "end of an own question", ["question_id"], null),
        new("proof_ask", "proof test asked", Id, null),
        new("attachment", "file", Id, null)
        {
            LeftOut = ["bytes"],
            Hashed = ["small"],
            Anew = new Dictionary<string, string>
            {
                ["bytes"] = $"coalesce((select f.bytes {TheFile}), '')",
                ["small"] = $"(select f.small {TheFile})",
            },
        },
        new("recall", "recall", Id, null),
        new("recall_end", "end of a recall", ["recall_id"], null),
        new("lift", "lift", Id, null) { Only = "t.state <> 'planned' and not t.is_template" },
        new("lift_record", "step of a lift", Id, null),
        new("piece", "piece", Id, "id")
        {
            LeftOut =
            [
                "state",
                "verdict",
                "open_holds",
                "periodic_due",
                "frequent_due",
                "last_by",
                "carried",
                "touched",
                "locked",
                "proof_due",
                "proof_lacks",
                "version",
                "sought",
                "due_on",
                "make",
                "colour",
                "rated_band",
            ],
            Anew = new Dictionary<string, string> { ["state"] = "'new'" },
        },
        new("baseline", "figure when new", Id),
        new("tag_record", "marking read", Id),
        new("piece_attachment", "file of a piece", ["piece_id", "attachment_id"]),
        new("carried_over", "report taken over", ["piece_id"]),
        new("carried_accepted", "report accepted", ["piece_id"]),
        new("piece_code", "further code", Id),
        new("inspection", "inspection", Id)
        {
            LeftOut = ["case_document", "verdict_document", "own_document", "counts_from", "counts_seq"],
            IsStatedElsewhere = true,
            Anew = new Dictionary<string, string>
            {
                ["case_document"] = "(select s.said->'case' from said s where s.id = r.id)::text",
                ["verdict_document"] = "(select s.said->'verdict' from said s where s.id = r.id)::text",
                ["own_document"] = "(select s.said->'own' from said s where s.id = r.id)::text",
            },
        },
        new("inspection_photo", "picture of an inspection", ["inspection_id", "attachment_id"], "inspection_id")
        {
            Via = "inspection",
        },
        new("supersession", "correction of an inspection", ["inspection_id"], "inspection_id") { Via = "inspection" },
        new("hold", "hold", Id),
        new("hold_photo", "picture of a hold", ["hold_id", "attachment_id"], "hold_id") { Via = "hold" },
        new("release", "end of a hold", ["hold_id"], "hold_id") { Via = "hold" },
        new("retag", "new tag", Id),
        new("disposal", "condemning or destruction", Id),
        new("season_mark", "season's mark", Id),
        new("lot_change", "count of a lot", Id),
        new("part_change", "replaced part", Id),
        new("move", "move", Id),
        new("gear_event", "event", Id, null),
        new("gear_event_piece", "event of a piece", ["event_id", "piece_id"]),
        new("fact_change", "change of facts", Id),
        new("issue", "hand-out", Id),
        new("give_back", "giving back", ["issue_id"], "issue_id") { Via = "issue" },
        new("away", "sending away", Id),
        new("away_return", "coming back", ["away_id"], "away_id") { Via = "away" },
        new("proof_test", "proof test", Id),
        new("evidence", "keeping as evidence", Id),
        new("witness", "words of a witness", Id),
        new("put_right", "putting right of a record", Id),
        new("replacement", "taking the place of another", Id),
        new("round", "round", Id, null),
        new("round_piece", "piece of a round", ["round_id", "piece_id"]),
        new("head_key", "key of the heads", ["fingerprint"], null)
        {
            Hashed = ["sealed"],
            Anew = new Dictionary<string, string> { ["sealed"] = "''" },
        },
        new("ledger_head", "head kept beside the ledger", ["number", "at"], null),
        new("tree_head", "signed head", Id, null),
    ];

    /// <summary>The tables that are not of the record, each with why: nothing is judged, handed out or lifted by them.</summary>
    public static IReadOnlyDictionary<string, string> Beside { get; } =
        new Dictionary<string, string>
        {
            ["ledger"] = "it is the ledger: its chain is re-computed",
            ["ledger_row"] = "it is of the ledger: each entry carries the digest of its rows",
            ["record_change"] = "what the act under way wrote, empty between acts",
            ["record_writing"] = "that an act is under way, empty between acts",
            ["distrust"] = "what verifying and untold writing stop; made anew by every verification",
            ["draft"] = "work under way: of the record once it is signed",
            ["draft_answer"] = "work under way: of the record once it is signed",
            ["draft_photo"] = "work under way: of the record once it is signed",
            ["instrument_in_hand"] = "what a form is filled in with beforehand; each reading names its instrument",
            ["round_sight"] = "scans of a round under way: what they come to is of the round once it is closed",
            ["import_file"] = "a file on its way in: what landed is of the record",
            ["submission"] = "ids of what was sent, so that the same twice is one",
            ["saved_view"] = "what somebody likes to look at",
            ["notice"] = "what somebody is told; the record it tells of stands elsewhere",
            ["mail"] = "mails on their way",
            ["due_feed"] = "the address of somebody's calendar, which can only read",
            ["price"] = "a note of the works that proves nothing",
            ["chore"] = "when scheduled work last ran",
            ["sign_in"] = "who is signed in at the moment",
            ["attempt"] = "tries to sign in, forgotten within the day",
            ["one_time_link"] = "addresses that work once; that one was made stands in the ledger",
            ["recovery_code"] = "codes for a lost second factor; that there is one stands in the ledger",
            ["protection_key"] = "keys that seal cookies and forms",
            ["schemaversions"] = "which migrations ran",
        };
}
