using Keralith.Cli;

return await Commands.RunAsync(args);
