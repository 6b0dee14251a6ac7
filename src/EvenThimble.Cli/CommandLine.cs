using System.CommandLine;
using System.CommandLine.Parsing;

namespace EvenThimble.Cli;

/// <summary>The commands beside the pages, for workshops that prepare in bulk. They do what the pages do, with the same core and the same sentences.</summary>
public static class CommandLine
{
    /// <summary>Everything asked for was done.</summary>
    public const int Done = 0;

    /// <summary>Something was refused; the sentence is on the error output, and nothing of it was written.</summary>
    public const int Refused = 1;

    /// <summary>The command was not written as it has to be.</summary>
    public const int WrongUse = 2;

    /// <summary>Runs a command; the result is the exit code.</summary>
    public static int Run(string[] args, TextWriter says, TextWriter errors)
    {
        var root = new RootCommand("Even Thimble on the command line: stitches from drawings and text, and stitch files converted, resized, merged, divided among hoopings, sewn with the names of a roster, cut from cloth, checked, drawn and put on paper.")
        {
            new StitchCommand(says, errors), new LetterCommand(says, errors), new WordCommand(says, errors), new MonogramCommand(says, errors), new ConvertCommand(says, errors), new ResizeCommand(says, errors), new MergeCommand(says, errors), new CheckCommand(says, errors), new PictureCommand(says, errors), new ThreadsCommand(says, errors), new SplitCommand(says, errors), new NamesCommand(says, errors), new CutCommand(says, errors), new SheetCommand(says, errors), new TemplateCommand(says, errors),
        };
        var parsed = root.Parse(args);
        if (parsed.Errors.Count == 0)
        {
            // The package calls the program by its file; people call it by its launcher.
            using var told = new StringWriter();
            var code = parsed.Invoke(new() { Output = told, Error = errors, EnableDefaultExceptionHandler = false });
            says.Write(told.ToString().Replace($"{RootCommand.ExecutableName} ", "even-thimble ", StringComparison.Ordinal));
            return code;
        }

        foreach (var error in parsed.Errors) errors.WriteLine(InWords(error));
        var command = parsed.CommandResult.Command is RootCommand ? string.Empty : $" {parsed.CommandResult.Command.Name}";
        errors.WriteLine($"“even-thimble{command} --help” tells how it is written.");
        return WrongUse;
    }

    /// <summary>The sentence of an error; where the package would name a type of the runtime, one of ours.</summary>
    private static string InWords(ParseError error) =>
        error.Message.Contains("System.", StringComparison.Ordinal) && error.SymbolResult?.Tokens is [.., var typed] ? $"“{typed.Value}” is not a number." : error.Message;
}
