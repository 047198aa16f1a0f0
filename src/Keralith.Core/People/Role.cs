namespace Keralith.Core.People;

/// <summary>What a person does in the yard.</summary>
public enum Role
{
    /// <summary>Rigger, operator, millwright: looks gear over before every use. May stop, never release.</summary>
    [Code("crew")]
    Crew,

    /// <summary>Storekeeper: hands out, takes back, keeps the cage.</summary>
    [Code("stores")]
    Stores,

    /// <summary>Inspects under supervision; signs nothing alone.</summary>
    [Code("trainee")]
    Trainee,

    /// <summary>The designated person: inspects, measures, signs.</summary>
    [Code("inspector")]
    Inspector,

    /// <summary>The qualified person: rules on doubts, releases, condemns.</summary>
    [Code("qualified")]
    Qualified,

    /// <summary>Supervisor or administrator: sites, stores, people, books.</summary>
    [Code("admin")]
    Admin,

    /// <summary>Reads everything, changes nothing.</summary>
    [Code("auditor")]
    Auditor,
}

/// <summary>
/// The roles of one person: whatever any of them may do, the person may. Who signed may not close, and nobody
/// countersigns themself, by person, whatever roles they hold.
/// </summary>
public readonly record struct Roles
{
    private readonly int _held;

    private Roles(int held) => _held = held;

    /// <summary>Several roles; none where none is given.</summary>
    public static Roles Of(IEnumerable<Role> roles) => new(roles.Aggregate(0, (held, r) => held | (1 << (int)r)));

    /// <summary>Roles by their codes, as they are kept.</summary>
    /// <exception cref="FormatException">A code is none of a role.</exception>
    public static Roles Parse(IEnumerable<string> codes) => Of(codes.Select(c => Code.Parse<Role>(c)));

    /// <summary>The roles held, in the order they are listed in.</summary>
    public IEnumerable<Role> Each
    {
        get
        {
            var held = _held;
            return Enum.GetValues<Role>().Where(r => (held & (1 << (int)r)) != 0);
        }
    }

    /// <summary>Their codes, as they are kept.</summary>
    public string[] Codes => [.. Each.Select(Code.Of)];

    /// <summary>Whether none is held.</summary>
    public bool IsNone => _held == 0;

    /// <summary>Whether a role is among them.</summary>
    public bool Has(Role role) => (_held & (1 << (int)role)) != 0;

    /// <summary>Whether any of them may do something.</summary>
    public bool May(Right right)
    {
        for (var i = 0; i < RoleCount; i++)
        {
            if ((_held & (1 << i)) != 0 && ((Role)i).May(right))
                return true;
        }

        return false;
    }

    private static readonly int RoleCount = Enum.GetValues<Role>().Length;

    /// <summary>One role alone.</summary>
    public static implicit operator Roles(Role role) => new(1 << (int)role);

    /// <summary>The roles as people read them, such as <c>stores, inspector</c>.</summary>
    public override string ToString() => string.Join(", ", Codes);
}

/// <summary>Something a person may or may not do.</summary>
public enum Right
{
    /// <summary>See gear, records and rules.</summary>
    Read,

    /// <summary>Take a piece out of use on a doubt.</summary>
    Hold,

    /// <summary>Make a frequent check's record.</summary>
    CheckFrequent,

    /// <summary>Enter gear, its tag and its baselines.</summary>
    Register,

    /// <summary>Change what is read or measured of gear that stands under an inspection.</summary>
    ChangeFacts,

    /// <summary>
    /// Change what makes gear under an inspection milder: figures when new, a rated load upwards, calibration.
    /// </summary>
    ChangeFigures,

    /// <summary>Hang gear elsewhere.</summary>
    Move,

    /// <summary>Put the season's mark on, or record that it was put on.</summary>
    PaintSeason,

    /// <summary>Plan a lift.</summary>
    PlanLift,

    /// <summary>Sign a critical lift.</summary>
    SignLift,

    /// <summary>Hand gear out and take it back.</summary>
    Issue,

    /// <summary>Say who has a piece next, without the store.</summary>
    HandOver,

    /// <summary>Attach certificates, reports and pictures.</summary>
    Attach,

    /// <summary>Accept the report of gear taken over.</summary>
    AcceptReport,

    /// <summary>Accept today's figure as the baseline of gear taken over.</summary>
    AcceptProvisional,

    /// <summary>Draft an inspection.</summary>
    Draft,

    /// <summary>Sign an inspection.</summary>
    SignInspection,

    /// <summary>Prove an identity again and fit a new tag.</summary>
    Retag,

    /// <summary>Close a hold put on for a doubt.</summary>
    CloseDoubt,

    /// <summary>Close a hold that a verdict or an event put on.</summary>
    CloseVerdict,

    /// <summary>Close a hold put on by a site policy.</summary>
    ClosePolicy,

    /// <summary>Call gear back, and let go what one called back.</summary>
    Recall,

    /// <summary>Keep a piece as evidence.</summary>
    LockEvidence,

    /// <summary>Record a proof test.</summary>
    ProofTest,

    /// <summary>Condemn a piece.</summary>
    Condemn,

    /// <summary>Record that a condemned piece was destroyed.</summary>
    Destroy,

    /// <summary>Read the ledger of signed records.</summary>
    ReadLedger,

    /// <summary>See how the site works: its books, limits and tokens; judge the register again.</summary>
    ReadSettings,

    /// <summary>Change the books, policies and shares a site works to.</summary>
    SetBooks,

    /// <summary>Set limits of the site and of makers.</summary>
    SetLimits,

    /// <summary>Say who is authorised to sign for what, and until when.</summary>
    Authorise,

    /// <summary>Keep the list of instruments and their calibration.</summary>
    KeepInstruments,

    /// <summary>Set the season scheme.</summary>
    SetSeasons,

    /// <summary>Make and revoke the tokens programs sign in with.</summary>
    ManageTokens,

    /// <summary>Invite people, change their roles, disable them, end their sign-ins.</summary>
    ManagePeople,

    /// <summary>Add, rename and close stores.</summary>
    ManageStores,

    /// <summary>See how the application runs, and have scheduled work done now.</summary>
    Operate,
}

/// <summary>Who may what: the one table.</summary>
public static class Rights
{
    private static readonly Role[] Everyone = Enum.GetValues<Role>();
    private static readonly Role[] Anyone = Everyone.Where(r => r != Role.Auditor).ToArray();

    private static readonly Dictionary<Right, Role[]> Table = new()
    {
        [Right.Read] = Everyone,
        [Right.Hold] = Anyone,
        [Right.CheckFrequent] = [Role.Crew, Role.Stores, Role.Inspector, Role.Qualified],
        [Right.Register] = [Role.Stores, Role.Inspector, Role.Qualified, Role.Admin],
        [Right.ChangeFacts] = [Role.Inspector, Role.Qualified],
        [Right.ChangeFigures] = [Role.Qualified],
        [Right.Move] = [Role.Crew, Role.Stores, Role.Inspector, Role.Qualified, Role.Admin],
        [Right.PaintSeason] = [Role.Inspector, Role.Qualified],
        [Right.PlanLift] = [Role.Crew, Role.Stores, Role.Inspector, Role.Qualified, Role.Admin],
        [Right.SignLift] = [Role.Qualified],
        [Right.Issue] = [Role.Stores, Role.Inspector, Role.Qualified],
        [Right.HandOver] = [Role.Crew, Role.Stores, Role.Inspector, Role.Qualified],
        [Right.Attach] = [Role.Stores, Role.Trainee, Role.Inspector, Role.Qualified, Role.Admin],
        [Right.AcceptReport] = [Role.Inspector, Role.Qualified],
        [Right.AcceptProvisional] = [Role.Qualified],
        [Right.Draft] = [Role.Trainee, Role.Inspector, Role.Qualified],
        [Right.SignInspection] = [Role.Inspector, Role.Qualified],
        [Right.Retag] = [Role.Qualified],
        [Right.CloseDoubt] = [Role.Inspector, Role.Qualified],
        [Right.CloseVerdict] = [Role.Qualified],
        [Right.ClosePolicy] = [Role.Admin],
        [Right.Recall] = [Role.Qualified, Role.Admin],
        [Right.LockEvidence] = [Role.Inspector, Role.Qualified],
        [Right.ProofTest] = [Role.Inspector, Role.Qualified],
        [Right.Condemn] = [Role.Qualified],
        [Right.Destroy] = [Role.Stores, Role.Qualified, Role.Admin],
        [Right.ReadSettings] = [Role.Inspector, Role.Qualified, Role.Admin, Role.Auditor],
        [Right.SetBooks] = [Role.Admin],
        [Right.SetLimits] = [Role.Qualified],
        [Right.Authorise] = [Role.Admin],
        [Right.KeepInstruments] = [Role.Inspector, Role.Qualified, Role.Admin],
        [Right.SetSeasons] = [Role.Qualified, Role.Admin],
        [Right.ManageTokens] = [Role.Admin],
        [Right.ManagePeople] = [Role.Admin],
        [Right.ManageStores] = [Role.Admin],
        [Right.Operate] = [Role.Admin],
        [Right.ReadLedger] = [Role.Inspector, Role.Qualified, Role.Admin, Role.Auditor],
    };

    /// <summary>Whether a role may do something.</summary>
    public static bool May(this Role role, Right right) => Table[right].Contains(role);
}
