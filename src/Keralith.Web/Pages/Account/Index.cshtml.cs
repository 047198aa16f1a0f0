using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

public sealed class AccountModel(Here here, SignInStore signIns) : YardPage(here)
{
    public Actor Who => Here.Actor;

    public async Task<IActionResult> OnPostAsync()
    {
        await SignedIn.EndAsync(HttpContext, signIns);
        return Redirect("/sign-in");
    }
}
