using System.CommandLine;
using System.Text.Encodings.Web;
using System.Text.Json;
using EvenThimble.Core.Text;

namespace EvenThimble.Cli;

/// <summary>A command that makes something of files, one after another: what is refused is told, and the rest goes on.</summary>
internal abstract class FilesCommand : Command
{
    private static readonly JsonSerializerOptions Figures = new(JsonSerializerDefaults.Web) { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
    private readonly TextWriter _says;
    private readonly TextWriter _errors;

    protected FilesCommand(string name, string description, string inputs, TextWriter says, TextWriter errors)
        : base(name, description)
    {
        (_says, _errors) = (says, errors);
        Inputs = new("in") { Description = inputs, Arity = ArgumentArity.OneOrMore };
        Add(Inputs);
        Add(Json);
        SetAction(Run);
    }

    /// <summary>The files that it reads.</summary>
    protected Argument<string[]> Inputs { get; }

    private Option<bool> Json { get; } = new("--json") { Description = "Tell the figures as JSON." };

    /// <summary>What is to be done, in the order it is told.</summary>
    /// <exception cref="UsageException">The options do not fit together.</exception>
    protected abstract IEnumerable<Work> Works(ParseResult parsed);

    private int Run(ParseResult parsed)
    {
        var told = new List<object>();
        var (json, refused) = (parsed.GetValue(Json), false);
        try
        {
            foreach (var work in Works(parsed).ToList())
            {
                var (result, why) = Do(work);
                refused |= why is not null || result is { Refuses: true };
                told.Add(new { @in = work.In, @out = why is null ? work.Out : null, refused = why, figures = result?.Figures });
                if (why is not null) _errors.WriteLine($"{work.In}: {why}");
                else if (!json) foreach (var line in result!.Lines) _says.WriteLine(line);
            }
        }
        catch (UsageException e)
        {
            _errors.WriteLine(e.Message);
            return CommandLine.WrongUse;
        }

        if (json) _says.WriteLine(JsonSerializer.Serialize(new { files = told }, Figures));
        return refused ? CommandLine.Refused : CommandLine.Done;
    }

    private static (WorkResult? Result, string? Refused) Do(Work work)
    {
        try
        {
            return (work.Do(), null);
        }
        catch (RefusedException e)
        {
            return (null, e.Message);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return (null, $"It cannot be read or written: {e.Message.TrimEnd('.')}.");
        }
    }
}

/// <summary>One thing to do.</summary>
/// <param name="In">What it is made of, as it is told.</param>
/// <param name="Out">What is written; null: nothing.</param>
/// <param name="Do">Does it.</param>
internal sealed record Work(string In, string? Out, Func<WorkResult> Do);

/// <summary>What came of it.</summary>
/// <param name="Lines">For people.</param>
/// <param name="Figures">For programs.</param>
/// <param name="Refuses">It was done, and what it found counts as a refusal.</param>
internal sealed record WorkResult(IReadOnlyList<string> Lines, object Figures, bool Refuses = false);

/// <summary>The command was not written as it has to be; the message is a sentence.</summary>
internal sealed class UsageException(string message) : Exception(message);
