using EvenThimble.Cli;

return CommandLine.Run(args, Console.Out, Console.Error);
