using Keralith.Core.People;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Who may sign in, and who says so: statements about people, their roles and the addresses that work once.</summary>
public class AccountsTests
{
    private static readonly Signer Admin = GivenPeople.Signer(Role.Admin);
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    public static TheoryData<string, string, string> ManyRoles { get; } =
        new()
        {
            {
                "stores inspector",
                "Register Issue Draft SignInspection CloseDoubt ReadSettings",
                "CloseVerdict Condemn"
            },
            { "stores qualified", "Issue CloseVerdict Condemn Destroy", "ManagePeople SetBooks" },
            { "admin inspector", "ManagePeople SignInspection SetBooks", "CloseVerdict Retag" },
            { "crew auditor", "Hold CheckFrequent ReadLedger", "Register SignInspection" },
            { "auditor", "Read ReadLedger ReadSettings", "Hold Move Draft" },
        };

    [Theory]
    [MemberData(nameof(ManyRoles))]
    public void Several_roles_may_what_any_of_them_may_and_no_more(string roles, string may, string mayNot)
    {
        var held = Roles.Parse(roles.Split(' '));
        Assert.All(may.Split(' '), r => Assert.True(held.May(Enum.Parse<Right>(r)), r));
        Assert.All(mayNot.Split(' '), r => Assert.False(held.May(Enum.Parse<Right>(r)), r));
    }

    [Fact]
    public void For_every_two_roles_the_rights_are_the_union()
    {
        foreach (var one in Enum.GetValues<Role>())
        {
            foreach (var other in Enum.GetValues<Role>())
            {
                var both = Roles.Of([one, other]);
                foreach (var right in Enum.GetValues<Right>())
                    Assert.Equal(one.May(right) || other.May(right), both.May(right));
                Assert.True(both.Has(one) && both.Has(other) && !both.IsNone);
                Assert.Equal(both, Roles.Parse(both.Codes));
            }
        }

        Assert.True(default(Roles).IsNone);
        Assert.DoesNotContain(Enum.GetValues<Right>(), r => default(Roles).May(r));
        Assert.Throws<FormatException>(() => Roles.Parse(["foreman"]));
    }

    [Theory]
    [InlineData("ada", true)]
    [InlineData("  ADA.fell-2_b ", true)]
    [InlineData("a", false)]
    [InlineData("", false)]
    [InlineData(null, false)]
    [InlineData("2ada", false)]
    [InlineData("ada fell", false)]
    [InlineData("ada/fell", false)]
    [InlineData("\u00e1da", false)]
    [InlineData("keralith", false)]
    [InlineData("abcdefghijabcdefghijabcdefghijabcdefghij", true)]
    [InlineData("abcdefghijabcdefghijabcdefghijabcdefghijk", false)]
    public void A_sign_in_name_is_plain_and_none_of_the_programs_own(string? name, bool reads)
    {
        var read = Accounts.Read(name, "Ada Fell", ["crew"], null);
        Assert.Equal(reads, read.Ok);
        if (reads)
            Assert.Equal(name!.Trim().ToLowerInvariant(), read.Value.Username);
    }

    [Theory]
    [InlineData("", true)]
    [InlineData("ada@works.example", true)]
    [InlineData("Ada <ada@works.example>", false)]
    [InlineData("ada", false)]
    [InlineData("ada@", false)]
    [InlineData("ada@works.example\r\nBcc: all@works.example", false)]
    public void A_mail_address_is_one_or_none(string mail, bool reads) =>
        Assert.Equal(reads, Accounts.ReadMail(mail).Ok);

    [Fact]
    public void Somebody_has_a_name_and_one_role_at_the_least()
    {
        Assert.False(Accounts.Read("ada", " ", ["crew"], null).Ok);
        Assert.False(Accounts.Read("ada", new string('a', 81), ["crew"], null).Ok);
        Assert.True(Accounts.Read("ada", new string('a', 80), ["crew"], null).Ok);
        Assert.False(Accounts.Read("ada", "Ada", [], null).Ok);
        Assert.False(Accounts.Read("ada", "Ada", ["foreman"], null).Ok);
        Assert.Equal(
            "stores, inspector",
            Accounts.Read("ada", "Ada", ["inspector", "stores"], null).Value.Roles.ToString()
        );
    }

    [Fact]
    public void Only_an_administrator_says_who_may_sign_in()
    {
        var ada = Accounts.Read("ada", "Ada", ["crew"], null).Value;
        var whom = new PersonStanding("ada", Role.Crew, false, 1);
        foreach (var role in Enum.GetValues<Role>())
        {
            var by = GivenPeople.Signer(role);
            Assert.All(
                [
                    Accounts.RefusalToInvite(ada, false, by),
                    Accounts.RefusalToChange(whom, Role.Stores, by),
                    Accounts.RefusalToDisable(whom, by),
                    Accounts.RefusalToEnable(whom with { IsDisabled = true }, by),
                    Accounts.RefusalToReset(whom, by),
                    Accounts.RefusalToAskFactor(false, false, by),
                ],
                r => Assert.Equal(role == Role.Admin ? null : RefusalKind.Forbidden, r?.Kind)
            );
        }

        Assert.NotNull(Accounts.RefusalToInvite(ada, isTaken: true, Admin));
    }

    [Theory]
    [InlineData("admin", 0, "crew", false)]
    [InlineData("admin", 1, "crew", true)]
    [InlineData("admin", 0, "admin inspector", true)]
    [InlineData("admin inspector", 0, "inspector", false)]
    [InlineData("crew", 0, "stores", true)]
    public void The_last_administrator_stays_one(string held, int others, string to, bool may)
    {
        var whom = new PersonStanding("ada", Roles.Parse(held.Split(' ')), false, others);
        Assert.Equal(may, Accounts.RefusalToChange(whom, Roles.Parse(to.Split(' ')), Admin) is null);
        Assert.Equal(!whom.Roles.Has(Role.Admin) || others > 0, Accounts.RefusalToDisable(whom, Admin) is null);
    }

    [Fact]
    public void The_disabled_come_back_and_the_active_go_once()
    {
        var active = new PersonStanding("ada", Role.Crew, false, 1);
        var gone = active with { IsDisabled = true };
        Assert.NotNull(Accounts.RefusalToDisable(gone, Admin));
        Assert.NotNull(Accounts.RefusalToEnable(active, Admin));
        Assert.NotNull(Accounts.RefusalToReset(gone, Admin));
        Assert.Equal(RefusalKind.NotFound, Accounts.RefusalToDisable(null, Admin)!.Kind);
    }

    [Theory]
    [InlineData(-1, false, true)]
    [InlineData(0, false, false)]
    [InlineData(1, false, false)]
    [InlineData(-1, true, false)]
    public void An_address_works_once_and_until_its_moment(int secondsPast, bool used, bool works)
    {
        var link = new OneTimeLink(Now, used ? Now.AddHours(-1) : null);
        Assert.Equal(works, Accounts.RefusalOfLink(link, Now.AddSeconds(secondsPast)) is null);
        Assert.NotNull(Accounts.RefusalOfLink(null, Now));
    }

    [Theory]
    [InlineData("crew stores inspector", false)]
    [InlineData("qualified", true)]
    [InlineData("admin", true)]
    [InlineData("auditor", false)]
    public void A_second_factor_is_asked_of_those_who_release_condemn_or_administer(string roles, bool asked)
    {
        var held = Roles.Parse(roles.Split(' '));
        Assert.Equal(asked, Accounts.LacksSecondFactor(isAsked: true, held, hasOne: false));
        Assert.False(Accounts.LacksSecondFactor(isAsked: true, held, hasOne: true));
        Assert.False(Accounts.LacksSecondFactor(isAsked: false, held, hasOne: false));
    }

    [Fact]
    public void Nobody_shuts_themself_out_by_asking_a_second_factor_they_lack()
    {
        Assert.NotNull(Accounts.RefusalToAskFactor(ask: true, hasOne: false, Admin));
        Assert.Null(Accounts.RefusalToAskFactor(ask: true, hasOne: true, Admin));
        Assert.Null(Accounts.RefusalToAskFactor(ask: false, hasOne: false, Admin));
    }

    [Theory]
    [InlineData("elevenchars", false)]
    [InlineData("twelve chars", true)]
    [InlineData(null, false)]
    public void A_password_is_twelve_letters_long_and_nothing_is_asked_of_what_it_is_made_up_of(
        string? word,
        bool takes
    )
    {
        Assert.Equal(takes, PasswordRule.RefusalOf(word, word, [], (_, _) => false) is null);
    }

    [Fact]
    public void A_password_is_typed_twice_alike_is_none_of_the_common_and_not_longer_than_two_hundred()
    {
        Assert.NotNull(PasswordRule.RefusalOf("three wet ropes", "three wet rope", [], (_, _) => false));
        Assert.NotNull(PasswordRule.RefusalOf("three wet ropes", "three wet ropes", [], (_, _) => true));
        var (longest, over) = (new string('a', 200), new string('a', 201));
        Assert.Null(PasswordRule.RefusalOf(longest, longest, [], (_, _) => false));
        Assert.NotNull(PasswordRule.RefusalOf(over, over, [], (_, _) => false));
    }

    [Fact]
    public void Set_up_asks_a_name_a_unit_a_store_a_book_a_zone_and_an_administrator()
    {
        var ada = Accounts.Read("ada", "Ada", ["admin"], null);
        var works = SetUp.Read(" Test Works ", "mm", "Yard rack", ["asme", "europe"], "Europe/Paris", ada);
        Assert.Equal(("Test Works", "mm", "Yard rack"), (works.Value.Name, works.Value.Unit, works.Value.Store));
        Assert.Equal(2, works.Value.Books.Count);
        Assert.False(SetUp.Read("", "mm", "Yard", ["asme"], "UTC", ada).Ok);
        Assert.False(SetUp.Read("W", "ell", "Yard", ["asme"], "UTC", ada).Ok);
        Assert.False(SetUp.Read("W", "in", " ", ["asme"], "UTC", ada).Ok);
        Assert.False(SetUp.Read("W", "in", "Yard", [], "UTC", ada).Ok);
        Assert.False(SetUp.Read("W", "in", "Yard", ["asme", "unheard-of"], "UTC", ada).Ok);
        Assert.False(SetUp.Read("W", "in", "Yard", ["asme"], "Nowhere", ada).Ok);
        Assert.False(SetUp.Read("W", "in", "Yard", ["asme"], "UTC", new Refusal("No name")).Ok);
    }

    [Fact]
    public void A_works_is_set_up_once_by_an_address_that_works()
    {
        var link = new OneTimeLink(Now.AddMinutes(1), null);
        Assert.Null(SetUp.RefusalOf(isSetUp: false, link, Now));
        Assert.Equal(RefusalKind.Conflict, SetUp.RefusalOf(isSetUp: true, link, Now)!.Kind);
        Assert.NotNull(SetUp.RefusalOf(isSetUp: false, link with { UsedAt = Now }, Now));
        Assert.NotNull(SetUp.RefusalOf(isSetUp: false, link, Now.AddMinutes(1)));
        Assert.NotNull(SetUp.RefusalOf(isSetUp: false, null, Now));
    }

    [Theory]
    [InlineData(0, 1, true)]
    [InlineData(1, 1, false)]
    [InlineData(0, 0, false)]
    public void A_store_is_closed_when_nothing_hangs_in_it_and_another_stays_open(int pieces, int others, bool may) =>
        Assert.Equal(may, StoreActs.RefusalToClose(pieces, others, Admin) is null);

    [Fact]
    public void A_store_has_a_name_of_its_own_and_is_kept_by_an_administrator()
    {
        var store = StoreActs.Read(" Yard ", "", "boat", true).Value;
        Assert.Equal(new StoreEntry("Yard", "", StoreKind.Boat, true), store);
        Assert.Null(StoreActs.RefusalToKeep(store, isTaken: false, Admin));
        Assert.NotNull(StoreActs.RefusalToKeep(store, isTaken: true, Admin));
        Assert.Equal(
            RefusalKind.Forbidden,
            StoreActs.RefusalToKeep(store, isTaken: false, GivenPeople.Signer(Role.Qualified))!.Kind
        );
        Assert.False(StoreActs.Read("Yard", "", "shed", false).Ok);
        Assert.False(StoreActs.Read(new string('a', 61), "", "rack", false).Ok);
        Assert.False(StoreActs.Read("Yard", new string('a', 121), "rack", false).Ok);
    }

    [Theory]
    [InlineData(RestoreStanding.Missing, false, true)]
    [InlineData(RestoreStanding.Empty, false, true)]
    [InlineData(RestoreStanding.Filled, false, false)]
    [InlineData(RestoreStanding.Filled, true, true)]
    [InlineData(RestoreStanding.InUse, true, false)]
    public void A_backup_takes_no_place_that_is_taken_unless_it_is_said(RestoreStanding stands, bool over, bool may)
    {
        Assert.Equal(may, BackupActs.RefusalToRestore("b", isThere: true, "d", stands, over) is null);
        Assert.NotNull(BackupActs.RefusalToRestore("b", isThere: false, "d", stands, over));
        Assert.NotNull(BackupActs.RefusalToKeep(0));
        Assert.Null(BackupActs.RefusalToKeep(1));
    }

    [Theory]
    [InlineData(0, "inspector", true)]
    [InlineData(366, "inspector", true)]
    [InlineData(367, "inspector", false)]
    [InlineData(-1, "inspector", false)]
    [InlineData(null, "inspector", false)]
    [InlineData(30, "qualified", false)]
    [InlineData(30, "", false)]
    public void A_token_of_ones_own_ends_and_has_no_larger_rights(int? days, string roles, bool may)
    {
        var by = GivenPeople.Signer(Role.Inspector);
        var asked = Roles.Parse(roles.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        var ends = days is { } n ? by.Day.AddDays(n) : (DateOnly?)null;
        Assert.Equal(may, PeopleActs.RefusalOfToken("Scale", ends, asked, by) is null);
        Assert.NotNull(PeopleActs.RefusalOfToken(" ", ends, asked, by));
    }

    [Fact]
    public void A_token_acts_with_what_its_person_still_has_and_nothing_without_the_factor_they_must_have()
    {
        var both = Roles.Of([Role.Inspector, Role.Qualified]);
        Assert.Equal("inspector", PeopleActs.RolesOfToken(Role.Inspector, both, false).ToString());
        Assert.True(PeopleActs.RolesOfToken(Role.Qualified, Role.Inspector, false).IsNone);
        Assert.Equal(both.ToString(), PeopleActs.RolesOfToken(null, both, false).ToString());
        Assert.True(PeopleActs.RolesOfToken(null, both, true).IsNone);
    }

    [Fact]
    public void A_token_is_ended_by_whose_it_is_or_an_administrator()
    {
        var by = GivenPeople.Signer(Role.Crew);
        Assert.Null(PeopleActs.RefusalToRevoke(by.Person, by));
        Assert.NotNull(PeopleActs.RefusalToRevoke(Guid.NewGuid(), by));
        Assert.Null(PeopleActs.RefusalToRevoke(Guid.NewGuid(), GivenPeople.Signer(Role.Admin)));
        Assert.NotNull(PeopleActs.RefusalToRevoke(null, GivenPeople.Signer(Role.Admin)));
    }
}
