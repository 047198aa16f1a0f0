using System.CommandLine;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;

namespace Keralith.Cli.Works;

/// <summary>
/// People without a browser: in the name of KERALITH_USER, or of the first administrator. Passwords are chosen by address
/// alone and never typed here.
/// </summary>
internal static class PersonCommand
{
    public static Command Make() =>
        new(
            "person",
            "People who sign in: add, reset, list, disable, no-factor. Addresses to choose a password by are printed once."
        )
        {
            Add(),
            OnOne(
                "reset",
                "Prints an address by which a person chooses another password; the old one goes on until then.",
                ResetAsync
            ),
            OnOne("no-factor", "Takes a person's second factor off: phone and paper are lost.", (records, username) =>
                ActAsync(records, username, "has no second factor any more", s => s.DropFactorAsync)
            ),
            OnOne(
                "disable",
                "Disables a person: their sign-ins, programs and feeds end at once. The last administrator stays.",
                (records, username) => ActAsync(records, username, "is disabled", s => s.DisableAsync)
            ),
            List(),
        };

    private static Command Add()
    {
        var username = new Argument<string>("USERNAME")
        {
            Description = "The sign-in name, which records keep for good.",
        };
        var name = new Option<string>("--name") { Description = "The name people read.", Required = true };
        var roles = new Option<string[]>("--role")
        {
            Description =
                $"What the person does, once for each: {string.Join(", ", Enum.GetValues<Role>().Select(Code.Of))}.",
            Required = true,
            AllowMultipleArgumentsPerToken = true,
        };
        var mail = new Option<string>("--mail") { Description = "Their mail address." };
        var command = new Command("add", "Invites a person, and prints the address by which they choose a password.")
        {
            username,
            name,
            roles,
            mail,
        };
        command.SetAction(
            (parsed, _) =>
                Records.OnAsync(async records =>
                {
                    var read = Accounts.Read(
                        parsed.GetValue(username),
                        parsed.GetValue(name),
                        parsed.GetValue(roles) ?? [],
                        parsed.GetValue(mail)
                    );
                    if (!read.Ok)
                        throw new UsageException(read.Fault!);
                    var secret = AccountStore.NewSecret();
                    var by = await StampAsync(records.Database);
                    var done = await new AccountStore(records.Database).InviteAsync(
                        read.Value,
                        secret,
                        by,
                        CancellationToken.None
                    );
                    return Said(done, secret);
                })
        );
        return command;
    }

    private static Command List()
    {
        var command = new Command("list", "Lists the people: sign-in name, roles, whether invited or disabled.");
        command.SetAction(
            (_, _) =>
                Records.OnAsync(async records =>
                {
                    var all = await new AccountStore(records.Database).AllAsync(
                        DateTimeOffset.UtcNow,
                        CancellationToken.None
                    );
                    foreach (var row in all)
                    {
                        var stands =
                            row.IsDisabled ? "disabled"
                            : row.IsInvited ? "invited"
                            : "active";
                        Console.WriteLine($"{row.Actor.Username}\t{row.Actor.Name}\t{row.Actor.Roles}\t{stands}");
                    }

                    return 0;
                })
        );
        return command;
    }

    private static Command OnOne(string name, string says, Func<Records, string, Task<int>> act)
    {
        var username = new Argument<string>("USERNAME") { Description = "The sign-in name." };
        var command = new Command(name, says) { username };
        command.SetAction((parsed, _) => Records.OnAsync(records => act(records, parsed.GetValue(username)!)));
        return command;
    }

    private static async Task<int> ResetAsync(Records records, string username)
    {
        var secret = AccountStore.NewSecret();
        return Said(
            await new AccountStore(records.Database).ResetAsync(
                username,
                secret,
                await StampAsync(records.Database),
                CancellationToken.None
            ),
            secret
        );
    }

    private static async Task<int> ActAsync(
        Records records,
        string username,
        string said,
        Func<AccountStore, Func<string, Stamp, CancellationToken, Task<Checked<Recorded>>>> act
    )
    {
        var by = await StampAsync(records.Database);
        var done = await act(new(records.Database))(username, by, CancellationToken.None);
        Console.WriteLine(done.Ok ? $"{username} {said}." : done.Fault);
        return done.Ok ? 0 : 1;
    }

    private static int Said(Checked<Recorded> done, string secret)
    {
        if (!done.Ok)
        {
            Console.Error.WriteLine(done.Fault);
            return 1;
        }

        var at = Served.Read(Environment.GetEnvironmentVariable).Address
            ?? new Uri(ServeCommand.Urls.Split(';')[0].Replace("*", "127.0.0.1", StringComparison.Ordinal));
        Console.WriteLine("They choose their password at this address, which works once:");
        Console.WriteLine(new Uri(at, $"/password?token={secret}"));
        return 0;
    }

    private static async Task<Stamp> StampAsync(Database database) =>
        new(await ExchangeCommands.WhoAsync(database), DateTimeOffset.UtcNow, Guid.CreateVersion7())
        {
            ByDatabase = true,
        };
}
