using Keralith.Web;

var database = Environment.GetEnvironmentVariable("KERALITH_DATABASE")
    ?? throw new InvalidOperationException("Set KERALITH_DATABASE to the connection string of a PostgreSQL database.");
await WebHost.Build(args, database, Environment.GetEnvironmentVariable("KERALITH_URLS"), quiet: false).RunAsync();
