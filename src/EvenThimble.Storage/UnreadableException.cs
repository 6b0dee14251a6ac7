namespace EvenThimble.Storage;

/// <summary>Something that is stored cannot be read any more; the message says what, and what can be saved. All else goes on working.</summary>
public sealed class UnreadableException(string message, Exception? inner = null) : Exception(message, inner);
