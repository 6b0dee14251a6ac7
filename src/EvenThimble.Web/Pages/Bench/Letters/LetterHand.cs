using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>How letters that are written anew are sewn, as the card has it. Fonts heed the first four, letter sets the others.</summary>
/// <param name="Way">How they are stitched; null: as before.</param>
/// <param name="Thread">The thread of letters that were not there before.</param>
/// <param name="Outline">A line around them; null: none.</param>
/// <param name="OutlineThread">The thread of that.</param>
/// <param name="Set">How those of a set are sewn; null: as before.</param>
internal sealed record LetterChoices(StitchWay? Way, SewingThread Thread, LetterOutline? Outline = null, SewingThread? OutlineThread = null, Func<LetterSetContent, LetterSetContent.Sewn>? Set = null);

/// <summary>What texts are written with: a font, or a letter set.</summary>
internal abstract record LetterHand(string Name)
{
    /// <summary>The hand of a name.</summary>
    /// <exception cref="EditRefusedException">It is not here.</exception>
    public static LetterHand Of(BenchView bench, string? name)
    {
        if (bench.Get<LetterSets>().Find(name) is { } set) return new OfSet(set);
        return bench.Get<LetterFonts>().Find(name) is { } face ? new OfFont(face) : throw new EditRefusedException($"The font {Titles.Clean(name ?? string.Empty)} is not here. Choose another, or bring its file in.");
    }

    /// <summary>What letters of a height are laid with.</summary>
    public abstract LetterFace FaceAt(double capitalMm);

    /// <summary>Writes a text.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="choices">How it is sewn.</param>
    /// <param name="before">What it was before.</param>
    /// <exception cref="EditRefusedException">It cannot be written so; a sentence.</exception>
    public abstract ITextContent Write(LetteringWish wish, LetterChoices choices, ITextContent? before);

    /// <summary>Lays a text anew that was written with it, sewn as it is.</summary>
    public ITextContent Relaid(ITextContent content, LetteringWish wish) => Write(wish, new(null, ThreadOf(content), (content as LetteringContent)?.Outline), content);

    /// <summary>The thread of most of a text.</summary>
    public static SewingThread ThreadOf(ITextContent content) => content switch
    {
        LetteringContent l => l.Thread,
        LetterSetContent w => w.How.OneThread ?? w.ThreadsAsCame[0],
        _ => throw new NotSupportedException($"A {content.GetType().Name} has no thread."),
    };

    private sealed record OfFont(LetterFace Face) : LetterHand(Face.Name)
    {
        public override LetterFace FaceAt(double capitalMm) => Face;

        public override ITextContent Write(LetteringWish wish, LetterChoices choices, ITextContent? before) =>
            LetteringContent.Lay(wish, Face, new(choices.Way, before is null ? choices.Thread : ThreadOf(before), choices.Outline, choices.OutlineThread), before as LetteringContent);
    }

    private sealed record OfSet(LetterSet Set) : LetterHand(Set.Name)
    {
        public override LetterFace FaceAt(double capitalMm) => Set.FontOf(Set.Nearest(capitalMm)).Face;

        public override ITextContent Write(LetteringWish wish, LetterChoices choices, ITextContent? before)
        {
            var was = before as LetterSetContent;
            var content = LetterSetContent.Lay(wish, Set, was?.How ?? new(null, Joined: true), was);
            return choices.Set is { } how ? content with { How = how(content) } : content;
        }
    }
}
